import { parseCount } from "./counting";
import type { PartFields } from "./counts-line";

/** What a part of a count weighs, for goods of which no two weigh the same. */
export function WeightPart({ line, part, index, count, problem }: PartFields) {
  const typed = parseCount(part.weight);
  const wrong = problem(index, "weight") ?? (typed.ok ? undefined : typed.says);
  return (
    <span className="flex flex-wrap items-center gap-2">
      <input
        aria-label={`Weight of ${line.name}${part.lot && `, lot ${part.lot}`}, in kg`}
        aria-invalid={wrong ? true : undefined}
        inputMode="decimal"
        maxLength={16}
        placeholder="weighed"
        value={part.weight ?? ""}
        onChange={(e) => count.set(index, { weight: e.target.value })}
        className="entry w-28 text-right font-mono max-lg:h-12"
      />
      <span className="text-xs text-ink-3">kg</span>
      {wrong && <span className="text-xs font-semibold text-signal">{wrong}</span>}
    </span>
  );
}
