import type { ItemId } from "../../../core/ids";
import { SlipForm } from "../../parts/slip-form";
import type { LineWord } from "./line-acts";

/** The buyer's word on a line that somebody asked for: another quantity, something in its place, or no. */
export function DecideLine({
  line,
  quantity,
  unit,
  others,
}: {
  line: number;
  quantity: string;
  unit: string;
  /** What may stand in for it. */
  others: readonly { item: ItemId; name: string }[];
}) {
  return (
    <div className="flex flex-wrap gap-x-5 gap-y-1.5">
      <SlipForm<LineWord> does="decide" fields={{ line }} label="Change what is asked for…" send="Tell the asker">
        <label className="flex items-center gap-2">
          Quantity
          <input
            name="quantity"
            defaultValue={quantity}
            inputMode="decimal"
            maxLength={20}
            className="entry w-24 text-right font-mono"
          />
          {unit}
        </label>
        {others.length > 0 && (
          <label className="flex flex-col gap-1">
            Instead of it
            <select name="offered" className="entry">
              <option value="">the same</option>
              {others.map((o) => (
                <option key={o.item} value={o.item}>
                  {o.name}
                </option>
              ))}
            </select>
          </label>
        )}
        <input
          name="why"
          aria-label="Why"
          placeholder="why, for the asker to see"
          maxLength={300}
          className="entry w-full"
        />
      </SlipForm>
      <SlipForm<LineWord> does="decline" fields={{ line }} label="Decline it…" send="Decline this line">
        <input
          name="reason"
          aria-label="Why it is declined"
          placeholder="why, for the asker to see"
          maxLength={300}
          className="entry w-full"
        />
      </SlipForm>
    </div>
  );
}
