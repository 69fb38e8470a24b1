import { type Breakdown, type BreakdownAsked, OTHERS, shareOf } from "../../../core/insight/breakdown";
import { COUNT_WORDS, DIMENSION_WORDS, MEASURE_WORDS, valueWords } from "../../../core/insight/words";
import { keysOf } from "../../../core/keys";
import { showDay, showMoney, showPercent, showRound } from "../../../core/numbers/format";
import type { ReportDocument } from "../../../exchange/pdf/report-paper";
import type { Db } from "../../db/open";
import { theCompany } from "../company";
import { readBreakdown, valueNames } from "./breakdown";

/** Rows that are printed: more of them are no paper any more, but a file. */
const MOST_ROWS = 400;

/** A breakdown to be printed or sent: its rows with their share, as they stand on the page. */
export function breakdownReport(
  db: Db,
  asked: BreakdownAsked,
  { name = "Where the money went", of: b = readBreakdown(db, asked) }: { name?: string; of?: Breakdown } = {},
): ReportDocument {
  const company = theCompany(db);
  const { locale, currency } = company;
  const exact = (n: number) => (asked.count === "value" ? showMoney(n, currency, locale) : n.toLocaleString(locale));
  const short = (n: number) => (asked.count === "value" ? showRound(n, currency, locale) : n.toLocaleString(locale));
  const share = (n: number) => {
    const of = shareOf(n, b.total);
    return of === null ? "" : showPercent(of, locale);
  };
  const day = (d: string) => showDay(d, "0000", locale, false);
  const narrowed = keysOf(asked.filters).map((d) => {
    const key = asked.filters[d]!;
    return `${DIMENSION_WORDS[d]}: ${valueWords(d, { key, label: valueNames(db, d, [key])(key) }, locale)}`;
  });
  const columns = b.columns.map((c) =>
    c.key === OTHERS || !asked.columns ? c.label : valueWords(asked.columns, c, locale),
  );
  const shown = b.rows.slice(0, MOST_ROWS);
  return {
    title: name,
    company: { name: company.name, address: company.address },
    day: asked.until,
    locale,
    facts: [
      { title: "What", lines: [MEASURE_WORDS[asked.measure], COUNT_WORDS[asked.count]] },
      { title: "Days", lines: [`${day(asked.from)} to ${day(asked.until)}`] },
      ...(narrowed.length > 0 ? [{ title: "Only", lines: narrowed }] : []),
      { title: asked.count === "value" ? `In all, ${currency}` : "In all", lines: [exact(b.total)] },
    ],
    tables: [
      {
        title: `By ${DIMENSION_WORDS[asked.rows]}${asked.columns ? ` and ${DIMENSION_WORDS[asked.columns]}` : ""}`,
        heads: [DIMENSION_WORDS[asked.rows], ...columns, "in all", "share"],
        rows: shown.map((r) => [
          valueWords(asked.rows, r, locale),
          ...b.columns.map((c) => (r.cells[c.key] === undefined ? "" : short(r.cells[c.key]!))),
          exact(r.total),
          share(r.total),
        ]),
        total: [
          shown.length < b.rows.length ? `all ${b.rows.length} rows` : "all of it",
          ...b.columns.map((c) => short(b.totals[c.key] ?? 0)),
          exact(b.total),
          "",
        ],
      },
    ],
    notes: [
      ...(shown.length < b.rows.length
        ? [`The first ${shown.length} of ${b.rows.length} rows. The file that goes with it has all of them.`]
        : []),
      ...(asked.count === "papers" ? ["A paper that belongs to several rows or columns counts in each."] : []),
      ...(asked.count === "value"
        ? [
            `Home currency, before tax, at the rate of the paper.${b.columns.length ? " Figures side by side are in whole units." : ""}`,
          ]
        : []),
    ],
  };
}
