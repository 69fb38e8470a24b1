import type { RoundLine } from "./use-round";

const LOOK: Record<RoundLine["state"], string> = {
  waits: "text-ink-3",
  sent: "text-weed",
  refused: "font-semibold text-signal",
};
const wordsOf = ({ state, says }: RoundLine) =>
  ({ waits: "waits to be sent", sent: "in the pool", refused: says })[state];

/** What was noted on this round, and what became of each line. */
export function RoundLines({ lines, onDrop }: { lines: readonly RoundLine[]; onDrop: (key: string) => void }) {
  return (
    <ol aria-label="Lines of this round" className="border-t-2 border-ink">
      {lines.map((l) => (
        <li key={l.key} className="flex min-h-12 items-center gap-3 border-b border-rule-2 px-4.5 py-1.5">
          <span className="min-w-0 flex-1 leading-tight">
            <span className="block truncate text-[15px] font-semibold">{l.name}</span>
            <span className={`text-xs ${LOOK[l.state]}`}>
              {wordsOf(l)}
              {l.note && ` · ${l.note}`}
            </span>
          </span>
          <span className="figure text-base whitespace-nowrap">
            {l.quantity} <span className="font-sans text-xs text-ink-3">{l.unit}</span>
          </span>
          {l.state !== "sent" && (
            <button
              type="button"
              className="min-h-12 px-2 underline"
              aria-label={`Take away ${l.name}`}
              onClick={() => onDrop(l.key)}
            >
              Take away
            </button>
          )}
        </li>
      ))}
      {lines.length === 0 && (
        <li className="px-4.5 py-8 text-ink-2">
          Walk the shelves: scan, type how many are needed, and go on. The buyer finds every line among the needs.
        </li>
      )}
    </ol>
  );
}
