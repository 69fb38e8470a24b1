import { Link } from "react-router";
import type { ProposedLine, WhyNot } from "../../../core/settling/pay-list";
import { count } from "../../../core/text";
import type { PayableRow } from "../../../server/queries/settling/payables";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";

/** What is transferred to each supplier. */
export function Transfers({ lines, papers }: { lines: readonly ProposedLine[]; papers: readonly PayableRow[] }) {
  const w = useWriting();
  return (
    <>
      <SlipHead over="as it is ticked" title="Transfers" />
      <table className="w-full text-xs">
        <caption className="sr-only">Transfers</caption>
        <tbody>
          {lines.map((l) => (
            <tr key={`${l.supplier} ${l.currency}`} className="border-b border-rule-2">
              <th scope="row" className="py-1 text-left font-normal">
                {papers.find((p) => p.id === l.parts[0]!.id)?.supplierName}
                <span className="block text-2xs text-ink-3">{count(l.parts.length, "paper")}</span>
              </th>
              <td className="figure py-1 text-right">{w.amount(l.total, l.currency)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {lines.length === 0 && <p className="text-ink-2">Nothing is ticked.</p>}
    </>
  );
}

const WHY_NOT: Record<WhyNot, string> = {
  "not due": "not due by then",
  "no account": "no account on record",
  "on another list": "on another list",
  "credit too large": "more than is paid with it",
};

/** What is owed and not proposed, each with why; what is held is not owed yet. */
export function NotProposed({
  left,
  papers,
  held,
}: {
  left: readonly { id: number; why: WhyNot }[];
  papers: readonly PayableRow[];
  held: readonly { currency: string; invoices: number; total: number }[];
}) {
  const w = useWriting();
  if (left.length === 0 && held.length === 0) return null;
  return (
    <SlipPart title="Not proposed">
      <ul className="flex flex-col text-xs">
        {left.map(({ id, why }) => {
          const p = papers.find((x) => x.id === id)!;
          return (
            <li key={id} className="flex items-baseline justify-between gap-2 border-b border-rule-2 py-1">
              <span className="min-w-0">
                <span className="block truncate">
                  {p.supplierName} <span className="code">{p.number}</span>
                </span>
                <span className="text-2xs text-ink-2">
                  {why === "no account" ? (
                    <Link className="underline" to={`/suppliers/${p.supplier}`}>
                      {WHY_NOT[why]}
                    </Link>
                  ) : why === "not due" && p.left > 0 ? (
                    `due ${w.day(p.due, false)}`
                  ) : why === "not due" ? (
                    "nothing is paid to them"
                  ) : (
                    (p.onList ?? WHY_NOT[why])
                  )}
                </span>
              </span>
              <span className="figure">{w.amount(p.left, p.currency)}</span>
            </li>
          );
        })}
        {held.map((h) => (
          <li key={h.currency} className="flex items-baseline justify-between gap-2 border-b border-rule-2 py-1">
            <Link className="underline" to="/settle">
              {count(h.invoices, "invoice")} held
            </Link>
            <span className="figure">{w.amount(h.total, h.currency)}</span>
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}
