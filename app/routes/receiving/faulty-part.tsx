import { FAULTS } from "../../../core/receiving/set-aside";
import type { PartFields } from "./counts-line";

/** What of a count is not good: how much, why, and what there is to say. It is set aside, and the buyer decides. */
export function FaultyPart({ line, part, index, count, problem }: PartFields) {
  const of = `${line.name}${part.lot && `, lot ${part.lot}`}`;
  const wrong = problem(index, "fault") ?? problem(index, "faulty");
  return (
    <span className="flex flex-wrap items-center gap-2">
      <input
        aria-label={`Not good of ${of}, in ${line.unit}`}
        inputMode="decimal"
        maxLength={16}
        placeholder="not good"
        value={part.faulty}
        onChange={(e) => count.set(index, { faulty: e.target.value })}
        className="entry w-24 text-right font-mono max-lg:h-12"
      />
      <select
        aria-label={`What is wrong with ${of}`}
        aria-invalid={wrong ? true : undefined}
        value={part.fault}
        onChange={(e) => count.set(index, { fault: e.target.value })}
        className="entry max-lg:h-12"
      >
        <option value="">what is wrong?</option>
        {FAULTS.map((f) => (
          <option key={f}>{f}</option>
        ))}
      </select>
      <input
        aria-label={`Remark on ${of}`}
        maxLength={300}
        placeholder="remark"
        value={part.note}
        onChange={(e) => count.set(index, { note: e.target.value })}
        className="entry w-64 max-lg:h-12"
      />
      {wrong && <span className="text-xs font-semibold text-signal">{wrong}</span>}
    </span>
  );
}
