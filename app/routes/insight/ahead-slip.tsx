import { Link } from "react-router";
import type { AheadBy } from "../../../core/insight/ahead";
import { count } from "../../../core/text";
import type { AheadBeside } from "../../../server/queries/insight/ahead";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { useSlip } from "../../ui/use-slip";
import { type AheadRow, rowWords } from "./ahead-sheet";

/** The papers behind a row: goods on their way, what is owed, and what came and is not billed. */
export function AheadSlip({
  by,
  row,
  opens,
  jobs,
}: {
  by: AheadBy;
  row: AheadRow;
  /** The person opens orders, and jobs. */
  opens: boolean;
  jobs: boolean;
}) {
  const w = useWriting();
  const { slip, lost } = useSlip<AheadBeside>(`/insight/ahead-of?by=${by}&key=${encodeURIComponent(row.key)}`, by);
  const paper = (p: { order: number; number: string }) =>
    opens ? (
      <Link className="code underline" to={`/orders/${p.order}`}>
        {p.number}
      </Link>
    ) : (
      <span className="code">{p.number}</span>
    );
  return (
    <>
      <SlipHead over={by === "budget" ? "budget line" : by} title={rowWords(row, w)}>
        <p className="mt-1 text-ink-2">
          <b className="figure text-ink">{w.amount(row.coming)}</b> still to come
        </p>
        {by === "supplier" && (
          <Link className="text-xs underline" to={`/suppliers/${row.key}/record`}>
            Their record
          </Link>
        )}
        {"short" in row && (
          <p className="mt-1 text-xs text-ink-2">
            {row.chance?.basisPoints != null && `${row.chance.decides} decides whether all is here in time. `}
            {jobs && (
              <Link className="underline" to={`/jobs/${row.key}`}>
                The job
              </Link>
            )}
          </p>
        )}
      </SlipHead>
      {lost && <p className="text-xs text-ink-2">What stands beside it cannot be read just now.</p>}
      {slip && slip.parts.length > 0 && (
        <Papers
          title="On its way"
          more={slip.found - slip.parts.length}
          rows={slip.parts.map((p, i) => ({
            key: `${p.order}/${i}`,
            name: <span className="break-words">{p.name}</span>,
            says: (
              <>
                {paper(p)} {by !== "supplier" && `${p.supplierName}, `}
                {p.due < w.today ? "was due" : "due"} {w.day(p.due, false)}
                {p.due > p.requested && `, asked for ${w.day(p.requested, false)}`}
              </>
            ),
            minor: p.value,
          }))}
        />
      )}
      {slip?.owed && slip.owed.length > 0 && (
        <Papers
          title="Owed"
          rows={slip.owed.map((o) => ({
            key: `${o.supplier}/${o.due}`,
            name: (
              <Link className="hover:underline" to="/payables">
                {o.supplier}
              </Link>
            ),
            says: `${count(o.papers, "paper")}, due ${w.day(o.due, false)}`,
            minor: o.minor,
          }))}
        />
      )}
      {slip?.toBill && slip.toBill.length > 0 && (
        <Papers
          title="Came and not billed, with tax"
          rows={slip.toBill.map((b, i) => ({
            key: `${b.order}/${i}`,
            name: b.supplierName,
            says: (
              <>
                {paper(b)} to be paid by {w.day(b.due, false)}, were it billed today
              </>
            ),
            minor: b.minor,
          }))}
        />
      )}
      {slip && !slip.parts.length && !slip.owed?.length && !slip.toBill?.length && (
        <p className="text-xs text-ink-2">Nothing is on its way.</p>
      )}
    </>
  );
}

function Papers({
  title,
  rows,
  more = 0,
}: {
  title: string;
  rows: readonly { key: string; name: React.ReactNode; says: React.ReactNode; minor: number }[];
  /** So many stand behind it that are not shown. */
  more?: number;
}) {
  const w = useWriting();
  return (
    <SlipPart title={title}>
      <table className="w-full text-xs">
        <caption className="sr-only">{title}</caption>
        <tbody>
          {rows.map((r) => (
            <tr key={r.key} className="border-b border-rule-2">
              <th scope="row" className="py-1 text-left font-normal">
                {r.name}
                <span className="block text-2xs text-ink-3">{r.says}</span>
              </th>
              <td className="figure py-1 text-right align-top">{w.money(r.minor)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {more > 0 && <p className="pt-1 text-2xs text-ink-3">and {more} more, worth less each</p>}
    </SlipPart>
  );
}
