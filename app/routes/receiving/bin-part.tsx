import type { PartFields } from "./counts-line";

/** The bin into which a part of a count was put at once: it does not wait for the stow list. */
export function BinPart({ line, part, index, count, problem }: PartFields) {
  const wrong = problem(index, "bin");
  return (
    <span className="flex flex-wrap items-center gap-2">
      <input
        aria-label={`Bin of ${line.name}${part.lot && `, lot ${part.lot}`}`}
        aria-invalid={wrong ? true : undefined}
        maxLength={20}
        placeholder={line.bin ? `bin, ${line.bin}?` : "bin"}
        autoCapitalize="characters"
        value={part.bin}
        onChange={(e) => count.set(index, { bin: e.target.value })}
        className="entry w-28 font-mono max-lg:h-12"
      />
      {part.bin === "" && line.bin !== "" && (
        <button
          type="button"
          className="text-xs underline max-lg:min-h-12"
          onClick={() => count.set(index, { bin: line.bin })}
        >
          into {line.bin}
        </button>
      )}
      {wrong && <span className="text-xs font-semibold text-signal">{wrong}</span>}
    </span>
  );
}
