import { chanceSum } from "../../core/suppliers/chance";
import { count } from "../../core/text";
import type { LineChance } from "../../server/queries/suppliers/chances";
import { SlipPart } from "../ui/frame-parts";
import { useWriting } from "../ui/locale";
import { SumSheet } from "../ui/sum";

/** How likely goods that are awaited are here by a day, from what their supplier did before, with its sum. */
export function ChancePart({ line: { by, chance } }: { line: LineChance }) {
  const w = useWriting();
  if (chance === null)
    return (
      <SlipPart title={`Here by ${w.day(by)}?`}>
        <p className="text-ink-2">Fewer than five receipts of theirs are known, so no chance is worked out.</p>
      </SlipPart>
    );
  return (
    <SlipPart title={`Here by ${w.day(by)}: ${w.percent(Math.round(chance.basisPoints / 10) * 10)}`}>
      <SumSheet
        heading={false}
        sum={chanceSum(chance, "Chance to be in time", {
          came: "still out at this point, and in by the day",
          open: "still out at this point",
        })}
      />
      <p className="mt-1 text-xs text-ink-3">
        {chance.n === 0 ? "None" : chance.n} of {count(chance.receipts, "receipt")} of{" "}
        {chance.of === "item" ? "this item" : "all their items"} in 24 months {chance.n > 1 ? "were" : "was"} still out
        at this point
        {chance.n === 0 && ", so the figure says little"}.
      </p>
    </SlipPart>
  );
}
