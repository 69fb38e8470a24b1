import { useEffect, useState } from "react";
import { answerOf } from "./answer-of";

/** Reads what stands beside the selected row. It follows the row; what was read stays until `fresh` changes. */
export function useSlip<T>(address: string | null, fresh: unknown): { slip: T | null; lost: boolean } {
  const [known, setKnown] = useState<{ fresh: unknown; by: Map<string, T> }>({ fresh, by: new Map() });
  const [lost, setLost] = useState(false);
  const by = known.fresh === fresh ? known.by : null;
  const here = address ? by?.get(address) : undefined;
  useEffect(() => {
    if (!address || here) return;
    const stop = new AbortController();
    const wait = setTimeout(async () => {
      try {
        const answer = await fetch(address, { signal: stop.signal });
        if (!answer.ok || answer.redirected) throw new Error("no slip");
        const slip = await answerOf<T>(answer);
        setLost(false);
        setKnown((k) => ({ fresh, by: new Map(k.fresh === fresh ? k.by : []).set(address, slip) }));
      } catch {
        if (!stop.signal.aborted) setLost(true);
      }
    }, 40);
    return () => {
      stop.abort();
      clearTimeout(wait);
    };
  }, [address, here, fresh]);
  return { slip: here ?? null, lost };
}
