import { useState } from "react";
import type { ItemId, SupplierId } from "../../../core/ids";
import { SlipForm } from "../../parts/slip-form";
import { useSlip } from "../../ui/use-slip";
import type { Sent } from "../../web/sent";

interface Choices {
  suppliers: { id: SupplierId; name: string; currency: string }[];
  units: { code: string; name: string }[];
  stockUnit: string;
}

/** What the form of `AddSupplier` sends, as a whole sourcing record. */
export const newSupplier = (input: Sent) => ({
  ...input,
  sourcing: "",
  theirName: "",
  minimum: "",
  multiple: "",
  standing: "",
  breaks:
    typeof input.price === "string" && input.price.trim()
      ? [{ from: "1", price: input.price, validFrom: "", validTo: "" }]
      : [],
});

/** Sets a supplier up for an item in the place where it is noticed that one is missing: the least that an order needs. */
export function AddSupplier({ item, stockUnit, fresh }: { item: ItemId; stockUnit: string; fresh: unknown }) {
  const { slip } = useSlip<Choices>(`/items/${item}/suppliers-to-add`, fresh);
  const [supplier, setSupplier] = useState("");
  const [unit, setUnit] = useState("");
  if (!slip || slip.suppliers.length === 0) return null;
  const same = (unit || slip.stockUnit) === slip.stockUnit;
  const currency = slip.suppliers.find((s) => String(s.id) === supplier)?.currency ?? slip.suppliers[0]!.currency;
  return (
    <div className="mt-1.5">
      <SlipForm<"add supplier"> does="add supplier" fields={{ item }} label="Add a supplier…" send="Add the supplier">
        <label className="flex flex-col gap-1">
          Supplier
          <select name="supplier" className="entry" value={supplier} onChange={(e) => setSupplier(e.target.value)}>
            {slip.suppliers.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        <div className="flex gap-2">
          <label className="flex flex-1 flex-col gap-1">
            Sold by the
            <select
              name="unit"
              className="entry"
              value={unit || slip.stockUnit}
              onChange={(e) => setUnit(e.target.value)}
            >
              {slip.units.map((u) => (
                <option key={u.code} value={u.code}>
                  {u.name}
                </option>
              ))}
            </select>
          </label>
          <label className="flex w-24 flex-col gap-1">
            {stockUnit} in one
            <input
              name="factor"
              key={same ? "same" : "other"}
              defaultValue={same ? "1" : ""}
              readOnly={same}
              inputMode="decimal"
              className="entry text-right font-mono"
            />
          </label>
          <label className="flex w-20 flex-col gap-1">
            Lead days
            <input name="leadDays" inputMode="numeric" className="entry text-right font-mono" />
          </label>
        </div>
        <div className="flex gap-2">
          <label className="flex flex-1 flex-col gap-1">
            Their code
            <input name="theirCode" maxLength={60} className="entry font-mono" />
          </label>
          <label className="flex w-32 flex-col gap-1">
            Price in {currency}
            <input name="price" inputMode="decimal" className="entry text-right font-mono" />
          </label>
        </div>
      </SlipForm>
    </div>
  );
}
