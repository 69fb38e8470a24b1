import { Link } from "react-router";
import type { OrderRow } from "../../../server/read/orders/lists";
import { SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { StateSquare } from "../../ui/signs";

/** About the selected order of a list. */
export function OrderSlip({ row }: { row: OrderRow }) {
  const w = useWriting();
  const facts: [string, string][] = [
    ["Store", row.storeName],
    ["Writer", row.writerName],
    ["Written", w.moment(row.written)],
    ["Placed", row.placed ? w.moment(row.placed) : "not yet"],
    ["Wanted by", w.day(row.required)],
    ["Before tax", w.amount(row.net, row.currency)],
    ...(row.currency === w.home ? [] : [["In home currency", w.amount(row.homeNet)] as [string, string]]),
  ];
  return (
    <>
      <SlipHead over={row.name} title={row.supplierName}>
        <p className="mt-1">
          <StateSquare state={row.state} />
        </p>
      </SlipHead>
      {row.sentBack && (
        <p className="border-l-4 border-signal pl-3">
          <b>Sent back:</b> {row.sentBack}
        </p>
      )}
      <dl className="border border-rule bg-sheet">
        {facts.map(([k, v]) => (
          <div key={k} className="flex justify-between border-b border-rule-2 px-2.5 py-1 last:border-0">
            <dt className="text-ink-2">{k}</dt>
            <dd className="figure">{v}</dd>
          </div>
        ))}
      </dl>
      <p>
        <Link to={`/orders/${row.id}`} className="font-semibold underline">
          Open {row.name}
        </Link>
      </p>
    </>
  );
}
