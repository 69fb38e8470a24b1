import { useState } from "react";
import { Form, Link } from "react-router";
import type { NeedRow as Row } from "../../../server/read/needs/needs";
import type { NeedSlip as Slip } from "../../../server/read/needs/slip";
import { Button } from "../../ui/button";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { StepLine } from "../../ui/step-line";
import { newKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { useSlip } from "../../ui/use-slip";

/** About the selected need: why this much, who can send it, what was used. */
export function NeedSlip({
  need,
  showSum,
  fresh,
  mayChoose,
}: {
  need: Row;
  showSum: boolean;
  fresh: unknown;
  mayChoose: boolean;
}) {
  const w = useWriting();
  const { slip, lost } = useSlip<Slip>(`/needs/slip?key=${encodeURIComponent(need.key)}`, fresh);
  return (
    <>
      <SlipHead over={`${need.code} · ${need.storeName} store`} title={need.name}>
        {need.requisition && (
          <p className="mt-1 text-ink-2">
            <Link className="underline" to={`/requisitions/${need.requisition.id}`}>
              {need.requisition.number}
            </Link>
            , {need.requisition.asker} needs it by {w.day(need.neededOn)}
          </p>
        )}
        {need.aboveMaximum && (
          <p className="mt-1 font-semibold text-signal">Goes above the most this store should hold.</p>
        )}
      </SlipHead>
      {lost && <p className="text-signal">This could not be read. It is tried again when you come back to the row.</p>}
      {slip && slip.levels.length > 0 && (
        <StepLine
          levels={slip.levels}
          last={slip.last}
          reorderPoint={slip.reorderPoint}
          lands={slip.arrives ? { day: slip.arrives, adds: slip.adds } : null}
          unit={need.stockUnit}
        />
      )}
      {slip && showSum && <SumSheet sum={slip.sum} />}
      {slip && mayChoose && slip.suppliers.length > 0 && need.requisition && (
        <ChooseSupplier line={need.requisition.line} suppliers={slip.suppliers} />
      )}
      {slip && slip.offers.length > 0 && (
        <SlipPart title="Who can send it">
          <table className="w-full border border-rule bg-sheet text-xs">
            <caption className="sr-only">Suppliers, price per {need.stockUnit}, arrival if ordered today</caption>
            <tbody>
              {slip.offers.map((o) => (
                <tr key={o.supplier} className="border-b border-rule-2 last:border-0">
                  <th scope="row" className={`py-1 pl-2.5 text-left ${o.preferred ? "font-semibold" : "font-normal"}`}>
                    {o.supplier}
                    <span className="block text-2xs font-normal text-ink-3">{o.from}</span>
                  </th>
                  <td className="figure px-2 text-right whitespace-nowrap">
                    {o.perStockUnit === null ? "–" : `${w.price(o.perStockUnit, o.currency)}`}
                    <span className="ml-1 font-sans text-2xs text-ink-3">
                      {o.currency}/{need.stockUnit}
                    </span>
                  </td>
                  <td className={`pr-2.5 text-right whitespace-nowrap ${o.late ? "font-semibold text-signal" : ""}`}>
                    {o.arrives ? w.day(o.arrives, false) : "never"}
                    {o.late && <span className="sr-only"> too late</span>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </SlipPart>
      )}
      {slip && slip.offers.length === 0 && need.item !== null && (
        <p className="font-semibold text-signal">
          No supplier is set up for this item. An administrator loads a sourcing record under Files.
        </p>
      )}
      {slip?.usage && (
        <p className="text-ink-2">
          Used {w.quantity(slip.usage.last30)} {need.stockUnit} in the last 30 days. Same weeks last year:{" "}
          {w.quantity(slip.usage.before)} before, {w.quantity(slip.usage.after)} after.
          {slip.usage.daysOfCover !== null && ` On hand covers ${w.quantity(slip.usage.daysOfCover * 1000)} days.`}
        </p>
      )}
    </>
  );
}

function ChooseSupplier({ line, suppliers }: { line: number; suppliers: { id: number; name: string }[] }) {
  const [key] = useState(newKey);
  return (
    <Form method="post" className="flex items-end gap-2">
      <input type="hidden" name="line" value={line} />
      <input type="hidden" name="key" value={key} />
      <label className="flex flex-1 flex-col gap-1">
        <span className="text-xs font-semibold text-ink-2">Who does it</span>
        <select name="supplier" className="entry">
          {suppliers.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
      </label>
      <Button type="submit" look="quiet">
        Choose
      </Button>
    </Form>
  );
}
