import type { Day } from "../../core/calendar/day";
import type { LineDifference } from "../../exchange/pdf/order-changes";
import { useWriting } from "../ui/locale";
import { partsWords } from "./said-words";

interface Props {
  caption: string;
  /** What stands before, and after. */
  heads: [string, string];
  differences: readonly LineDifference[];
  /** Totals beneath: what they are, before and after, as written. */
  figures: readonly [string, string, string][];
  currency: string;
}

/** In which lines two states of an order differ, and what each comes to. */
export function LineDifferences({ caption, heads: [before, after], differences, figures, currency }: Props) {
  return (
    <table className="mt-3 w-full border border-rule bg-sheet">
      <caption className="sr-only">{caption}</caption>
      <thead>
        <tr className="border-b border-ink text-left text-xs text-ink-2">
          <th className="px-2.5 py-1 font-semibold">Line</th>
          <th className="px-2.5 py-1 font-semibold">{before}</th>
          <th className="px-2.5 py-1 font-semibold">{after}</th>
        </tr>
      </thead>
      <tbody>
        {differences.map((d) => (
          <Difference key={`${d.kind} ${d.line.position}`} difference={d} />
        ))}
        {differences.length === 0 && (
          <tr>
            <td colSpan={3} className="px-2.5 py-2 text-ink-2">
              No line stands otherwise.
            </td>
          </tr>
        )}
        {figures.map(([what, was, is]) => (
          <tr key={what} className="border-t border-rule">
            <th scope="row" className="px-2.5 py-1 text-left font-normal text-ink-2">
              {what}, {currency}
            </th>
            <td className="figure px-2.5 py-1">{was}</td>
            <td className={`figure px-2.5 py-1 ${was === is ? "" : "font-semibold"}`}>{is}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Difference({ difference: d }: { difference: LineDifference }) {
  const w = useWriting();
  const moves = d.kind === "changed" && d.before.to !== undefined && d.before.to !== (d.line.deliverTo?.name ?? null);
  const said = (parts: { quantity: number; required: Day }[], price: number | null, to: string | null | undefined) =>
    `${partsWords(
      parts.map((p) => ({ quantity: p.quantity, day: p.required })),
      w,
      d.line.unit,
    )}${price === null ? "" : `, at ${w.price(price)}`}${moves ? `, to ${to ?? "the order’s place"}` : ""}`;
  const now = d.line.instalments?.length ? d.line.instalments : [d.line];
  const to = d.line.deliverTo?.name;
  return (
    <tr className="border-b border-rule-2">
      <th scope="row" className="px-2.5 py-1 text-left font-normal">
        {d.line.position} {d.line.words}
      </th>
      <td className="px-2.5 py-1 text-ink-2">
        {d.kind === "new"
          ? "–"
          : d.kind === "gone"
            ? said(now, d.line.price, to)
            : said(d.before.parts, d.before.price, d.before.to)}
      </td>
      <td className="px-2.5 py-1 font-semibold">
        {d.kind === "gone" ? "not ordered any more" : said(now, d.line.price, to)}
      </td>
    </tr>
  );
}
