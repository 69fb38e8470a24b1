import { chanceSum, shownChance, type WaitChance, waitSum } from "../../core/suppliers/chance";
import { count } from "../../core/text";
import type { LineChance } from "../../server/queries/suppliers/chances";
import { Button } from "../ui/button";
import { SlipPart } from "../ui/frame-parts";
import { useWriting } from "../ui/locale";
import { SumSheet } from "../ui/sum";

/** The chance of what a line waits for, in whole percents; a press shows its sum. Nothing where it waits for nothing. */
export function WaitFigure({ chance, of, onShow }: { chance: WaitChance | null; of: string; onShow: () => void }) {
  const w = useWriting();
  if (chance === null) return null;
  if (chance.basisPoints === null)
    return (
      <span className="text-ink-3" title="Too few receipts are known, or some of it is on no placed order">
        –
      </span>
    );
  return (
    <Button look="plain" className="figure min-h-0 p-0 font-normal" aria-label={`In time: ${of}`} onClick={onShow}>
      {w.percent(shownChance(chance.basisPoints))}
    </Button>
  );
}

/** How likely all that somebody waits for is here on their day, with its sum. */
export function WaitPart({ title, chance }: { title: string; chance: WaitChance }) {
  const w = useWriting();
  if (chance.loads === null || chance.basisPoints === null)
    return (
      <SlipPart title={title}>
        <p className="text-ink-2">
          {chance.loads === null
            ? "Fewer than five receipts of a supplier are known, so no chance is worked out."
            : "Some of it is on no placed order, so no chance is worked out."}
        </p>
      </SlipPart>
    );
  return (
    <SlipPart title={`${title}: ${w.percent(Math.round(chance.basisPoints / 10) * 10)}`}>
      <SumSheet heading={false} sum={waitSum("Chance to be in time", chance.loads)} />
      {chance.loads.length > 1 && (
        <p className="mt-1 text-xs text-ink-3">Each load counts by itself, as independent of the others.</p>
      )}
    </SlipPart>
  );
}

/** How likely goods that are awaited are here by a day, from what their supplier did before, with its sum. */
export function ChancePart({
  line: { by, chance },
  lead = "",
}: {
  line: LineChance /** Said before. */;
  lead?: string;
}) {
  const w = useWriting();
  const here = `${lead ? `${lead}, here` : "Here"} by ${w.day(by)}`;
  if (chance === null)
    return (
      <SlipPart title={`${here}?`}>
        <p className="text-ink-2">Fewer than five receipts of theirs are known, so no chance is worked out.</p>
      </SlipPart>
    );
  return (
    <SlipPart title={`${here}: ${w.percent(Math.round(chance.basisPoints / 10) * 10)}`}>
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
