import { useCallback, useRef, useState } from "react";
import { answerOf } from "./answer-of";

const BLOCK = 200;

/**
 * The rows of a sheet that lies on the server: the first come with the page, the others when they are seen. `address` is
 * where they are asked for; where the server's rows are of another state than the page's, `onStale` hears of it.
 */
export function useRows<R>(
  sheet: { from: number; rows: readonly R[]; count: number; at: number },
  address: string,
  onStale: () => void,
) {
  const known = useRef(new Map<number, R>());
  const asked = useRef(new Set<number>());
  const of = useRef<unknown>(null);
  const [, drawn] = useState(0);
  if (of.current !== sheet) {
    // Another state of the sheet: what was read of the last one is of no use any more.
    of.current = sheet;
    known.current = new Map(sheet.rows.map((r, i) => [sheet.from + i, r]));
    asked.current = new Set();
  }
  const stale = useRef(onStale);
  stale.current = onStale;
  const want = useCallback(
    (from: number, to: number) => {
      for (let block = Math.floor(from / BLOCK); block <= Math.floor(to / BLOCK); block++) {
        const start = block * BLOCK;
        const end = Math.min(sheet.count, start + BLOCK);
        if (asked.current.has(block)) continue;
        let whole = true;
        for (let i = start; i < end && whole; i++) whole = known.current.has(i);
        if (whole) continue;
        asked.current.add(block);
        fetch(`${address}&from=${start}&most=${BLOCK}`)
          .then(async (answer) => {
            if (!answer.ok || answer.redirected) throw new Error("no rows");
            const got = await answerOf<{ rows: R[]; at: number; count: number }>(answer);
            if (of.current !== sheet) return;
            if (got.at !== sheet.at || got.count !== sheet.count) {
              stale.current();
              return;
            }
            got.rows.forEach((r, i) => {
              known.current.set(start + i, r);
            });
            drawn((n) => n + 1);
          })
          .catch(() => {
            asked.current.delete(block); // asked again when it is seen again
          });
      }
    },
    [sheet, address],
  );
  return { row: (i: number) => known.current.get(i), want };
}
