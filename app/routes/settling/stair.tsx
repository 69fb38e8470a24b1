import type { Stair, StairStep } from "../../../core/settling/match";
import { StairChart } from "../../parts/stair-chart";

/** From what was expected to what they ask, one step for each cause; nothing where they ask just that. */
export function MatchStair({
  stair,
  currency,
  words,
}: {
  stair: Stair;
  currency: string;
  words: (s: StairStep) => string;
}) {
  if (stair.steps.length === 0)
    return (
      <p className="border-t-2 border-ink px-4.5 py-2.5 text-xs text-ink-2">They ask what was expected, to the cent.</p>
    );
  return (
    <StairChart
      caption={`From what was expected to what they ask, ${currency} with tax`}
      currency={currency}
      from={{ label: "expected", minor: stair.expected }}
      steps={stair.steps.map((s) => ({ label: words(s), minor: s.minor }))}
      to={{ label: "invoiced", minor: stair.invoiced }}
    />
  );
}
