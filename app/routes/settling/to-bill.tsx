import { Link } from "react-router";
import type { NotInvoiced } from "../../../server/queries/stock/values";
import { Empty } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";

/** Orders of which goods came that nobody billed yet, the longest first: one click enters their invoice. */
export function ToBill({ rows }: { rows: readonly NotInvoiced[] }) {
  const w = useWriting();
  if (rows.length === 0) return <Empty title="Everything that came is invoiced" />;
  return (
    <table className="w-full">
      <caption className="sr-only">Received, not invoiced</caption>
      <Heads
        heads={[
          { label: "Supplier" },
          { label: "Order", width: "w-32" },
          { label: "Came first", width: "w-28" },
          { label: `Not invoiced, ${w.home}`, align: "right", width: "w-40" },
        ]}
      />
      <tbody>
        {rows.map((r) => (
          <tr key={r.order} className="h-9 border-b border-rule-2">
            <td className="pl-4.5">
              <Link className="underline" to={`/settle/new?supplier=${r.supplier}`}>
                {r.supplierName}
              </Link>
            </td>
            <td className="px-2">
              <Link className="code underline" to={`/settle/new?order=${r.number}`}>
                {r.number}
              </Link>
            </td>
            <td className="px-2 whitespace-nowrap">{w.day(r.since, false)}</td>
            <td className="figure px-2 pr-4.5 text-right">{w.money(r.value)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
