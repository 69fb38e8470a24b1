import { shareOf } from "../../../core/insight/breakdown";
import type { Ratio, RecordFigure } from "../../../core/insight/record";
import { count } from "../../../core/text";
import type { RecordFigures } from "../../../server/queries/insight/record";

/** A figure of a supplier's record as it is read: what it is, from what, and how it is compared. */
export interface FigureWords {
  name: string;
  /** Null where nothing is known. */
  text: string | null;
  from: string;
  /** For the comparison: a plain number, and how it is written. */
  worth: number | null;
  unit: "points" | "plain" | "percent";
}

/** Figures that are better when they are higher; of all others less is better. */
const BETTER_HIGH: readonly RecordFigure[] = ["promised", "requested", "inFull"];

export const FIGURE_NAMES: Record<RecordFigure, string> = {
  promised: "In time against what they promised",
  requested: "In time against what we asked",
  days: "Days from sent to here",
  inFull: "In full with the first load",
  moved: "Promises moved",
  answered: "Hours to answer",
  price: "Price against a year before",
  aside: "Set aside",
  held: "Invoices held",
};

const tenth = (n: number, locale: string) =>
  n.toLocaleString(locale, { minimumFractionDigits: 1, maximumFractionDigits: 1 });
const basis = ({ of, all }: Ratio) => shareOf(of, all);

function priceWords(price: RecordFigures["price"], locale: string): Omit<FigureWords, "name"> {
  const more = price && shareOf(price.paid - price.earlier, price.earlier);
  return {
    text: more === null ? null : `${more > 0 ? "+" : ""}${tenth(more / 100, locale)} %`,
    from: price === null ? "nothing was bought a year before, too" : "what was bought a year before, too",
    worth: more === null ? null : more / 100,
    unit: "percent",
  };
}

/** A figure in words. */
export function figureWords(figure: RecordFigure, r: RecordFigures, locale: string): FigureWords {
  const name = FIGURE_NAMES[figure];
  const share = (s: Ratio, what: string): FigureWords => {
    const points = basis(s);
    return {
      name,
      text: points === null ? null : `${Math.round(points / 100)} %`,
      from: s.all === 0 ? `no ${what}s` : `${s.of} of ${count(s.all, what)}`,
      worth: points === null ? null : Math.round(points / 100),
      unit: "points",
    };
  };
  const plain = (worth: number | null, text: string | null, from: string): FigureWords => ({
    name,
    text,
    from,
    worth,
    unit: "plain",
  });
  switch (figure) {
    case "promised":
      return share(r.promised, "load");
    case "requested":
      return share(r.requested, "load");
    case "inFull":
      return share(r.inFull, "line");
    case "aside":
      return share(r.aside, "load");
    case "held":
      return share(r.held, "invoice");
    case "days":
      return r.days === null
        ? plain(null, null, "no loads")
        : plain(
            r.days.mean,
            `${tenth(r.days.mean, locale)} ± ${tenth(r.days.deviation, locale)}`,
            `${count(r.days.count, "load")}, nine of ten within ${r.days.ninetieth}`,
          );
    case "moved":
      return plain(
        r.moved.count,
        String(r.moved.count),
        r.moved.count === 0 ? "none" : `by ${tenth(r.moved.days / r.moved.count, locale)} days each`,
      );
    case "answered": {
      const hours = r.answered.count === 0 ? null : r.answered.minutes / r.answered.count / 60;
      return plain(
        hours,
        hours === null ? null : tenth(hours, locale),
        r.answered.count === 0 ? "no answers" : `${count(r.answered.count, "order")} answered`,
      );
    }
    case "price":
      return { name, ...priceWords(r.price, locale) };
  }
}

/** By how much a figure moved, and whether that is for the worse. */
export function movedBy(
  figure: RecordFigure,
  now: FigureWords,
  before: FigureWords,
  locale: string,
): { text: string; worse: boolean } | null {
  if (now.worth === null || before.worth === null) return null;
  const by = now.worth - before.worth;
  const text = now.unit === "points" || Number.isInteger(by) ? String(Math.abs(by)) : tenth(Math.abs(by), locale);
  if (Number(text.replace(",", ".")) === 0) return { text: "", worse: false };
  return { text: `${by > 0 ? "+" : "−"}${text}`, worse: by > 0 !== BETTER_HIGH.includes(figure) };
}
