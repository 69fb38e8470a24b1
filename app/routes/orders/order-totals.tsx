import { count } from "../../../core/text";
import type { OrderSheet } from "../../../server/queries/orders/order";
import { useWriting } from "../../ui/locale";

interface Props {
  head: Pick<OrderSheet["head"], "currency">;
  lines: readonly unknown[];
  totals: Pick<OrderSheet["totals"], "net" | "tax" | "total">;
}

/** What an order comes to, in its tally strip. */
export function OrderTotals({ head, lines, totals }: Props) {
  const w = useWriting();
  const figures = { net: totals.net, tax: totals.tax, total: totals.total };
  return (
    <>
      <span>{count(lines.length, "line")}</span>
      {Object.entries(figures).map(([name, { minor }]) => (
        <span key={name}>
          {name} <b className="figure">{w.amount(minor, head.currency)}</b>
        </span>
      ))}
    </>
  );
}
