import { createStore, get, set, type UseStore } from "idb-keyval";
import { useCallback, useEffect, useRef, useState } from "react";
import type { StoreId } from "../../../core/ids";
import type { OpenLine } from "../../../server/queries/receiving/open-count";
import { answerOf } from "../../ui/answer-of";

/** What should come is read anew after so long. */
const AGAIN = 120_000;

let opened: UseStore | null = null;
const store = () => {
  opened ??= createStore("wharf-known", "lines");
  return opened;
};

interface Known {
  at: string;
  lines: OpenLine[];
}

/** The dock's work list on this device: what should come soon, with all its codes, as it was when there was a connection. */
export function useKnownLines(of: StoreId) {
  const [known, setKnown] = useState<Known | null>(null);
  const latest = useRef<OpenLine[]>([]);
  const put = useCallback((next: Known) => {
    latest.current = next.lines;
    setKnown(next);
  }, []);
  const read = useCallback(async () => {
    try {
      const answer = await fetch(`/open-count/known?store=${of}`, { headers: { Accept: "application/json" } });
      if (!answer.ok || answer.redirected) return;
      const { lines } = await answerOf<{ lines: OpenLine[] }>(answer);
      const next = { at: new Date().toISOString(), lines };
      put(next);
      await set(of, next, store()).catch(() => {});
    } catch {
      // No connection: what is here stays.
    }
  }, [of, put]);
  useEffect(() => {
    void get<Known>(of, store())
      .catch(() => undefined)
      .then((kept) => kept && latest.current.length === 0 && put(kept))
      .then(read);
    const again = setInterval(() => void read(), AGAIN);
    addEventListener("online", read);
    return () => {
      clearInterval(again);
      removeEventListener("online", read);
    };
  }, [of, put, read]);
  return { known, latest, read };
}
