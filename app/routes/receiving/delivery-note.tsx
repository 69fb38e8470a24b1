import type { ReactNode } from "react";
import type { CountTexts } from "./counting";

const TOTALS = [
  { key: "lines", label: "lines" },
  { key: "pieces", label: "pieces" },
  { key: "weight", label: "kg" },
] as const;

/** The delivery note: its number, and what it says came in all, held against the count. */
export function DeliveryNote({
  count,
  off,
  put,
  problem,
  children,
}: {
  count: CountTexts;
  /** Where it says otherwise. */
  off: readonly string[];
  put: (part: Partial<CountTexts>) => void;
  problem?: string;
  children?: ReactNode;
}) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-2 pt-2 text-xs text-ink-2">
      <input
        aria-label="Number of the delivery note"
        placeholder="delivery note"
        maxLength={60}
        value={count.note}
        onChange={(e) => put({ note: e.target.value })}
        className="entry w-44 font-mono max-lg:h-12 max-md:w-full"
      />
      <span>it says</span>
      {TOTALS.map(({ key, label }) => (
        <label key={key} className="flex items-center gap-1.5">
          <input
            aria-label={`The delivery note says, ${label}`}
            inputMode="decimal"
            maxLength={16}
            value={count.said[key]}
            onChange={(e) => put({ said: { ...count.said, [key]: e.target.value } })}
            className="entry w-16 text-right font-mono max-lg:h-12"
          />
          {label}
        </label>
      ))}
      {children}
      {(off.length > 0 || problem) && (
        <span role="status" className="flex min-w-64 flex-1 flex-wrap items-center gap-2">
          <span className="font-semibold text-signal">{off.join(" ") || problem}</span>
          <input
            aria-label="Why the count says otherwise"
            aria-invalid={problem ? true : undefined}
            placeholder="say why"
            maxLength={300}
            value={count.difference}
            onChange={(e) => put({ difference: e.target.value })}
            className="entry min-w-40 flex-1 max-lg:h-12"
          />
        </span>
      )}
    </div>
  );
}
