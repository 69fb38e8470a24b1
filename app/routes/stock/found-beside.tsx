import { useState } from "react";
import { ItemEntry } from "../../ui/item-entry";
import type { useStockCount } from "./use-stock-count";

/** What lies there and is not on the list: chosen, counted and handed in with the rest. */
export function FoundBeside({ counting }: { counting: ReturnType<typeof useStockCount> }) {
  const { typed, put } = counting;
  const [text, setText] = useState("");
  const set = (i: number, part: object) =>
    put({ ...typed, found: typed.found.map((f, n) => (n === i ? { ...f, ...part } : f)) });
  return (
    <div className="flex flex-col gap-2">
      <ItemEntry
        label="What else lies there"
        placeholder="item code or name"
        text={text}
        onText={setText}
        invalid={false}
        onItem={(f) => {
          setText("");
          put({
            ...typed,
            found: [...typed.found, { item: f.id, name: f.name, unit: f.about ?? "", bin: "", lot: "", counted: "" }],
          });
        }}
      />
      {typed.found.map((f, i) => (
        <div key={i} className="flex flex-col gap-1 border border-rule bg-sheet p-2">
          <b>{f.name}</b>
          <span className="flex flex-wrap gap-2">
            <input
              aria-label={`Counted of ${f.name}`}
              placeholder="count"
              inputMode="decimal"
              maxLength={16}
              value={f.counted}
              onChange={(e) => set(i, { counted: e.target.value })}
              className="entry w-20 text-right font-mono"
            />
            <input
              aria-label={`Bin of ${f.name}`}
              placeholder="bin, or dock"
              maxLength={20}
              value={f.bin}
              onChange={(e) => set(i, { bin: e.target.value })}
              className="entry w-24 font-mono"
            />
            <input
              aria-label={`Lot of ${f.name}`}
              placeholder="lot"
              maxLength={40}
              value={f.lot}
              onChange={(e) => set(i, { lot: e.target.value })}
              className="entry w-24 font-mono"
            />
            <button
              type="button"
              className="underline"
              onClick={() => put({ ...typed, found: typed.found.filter((_, n) => n !== i) })}
            >
              leave it out
            </button>
          </span>
          {counting.foundProblem(i) && (
            <span className="text-xs font-semibold text-signal">{counting.foundProblem(i)}</span>
          )}
        </div>
      ))}
    </div>
  );
}
