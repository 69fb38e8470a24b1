import { useCallback, useEffect, useState } from "react";
import { readLocal, sortDraft, type Versioned, writeLocal } from "./local-draft";

/**
 * A draft that one device keeps of one version of a paper: it survives leaving and reloading. Once the paper has another
 * version, what was kept is past: it is offered, and never taken for what stands now. Null is no draft.
 */
export function useLocalDraft<T>(name: string, version: number) {
  const [draft, setDraft] = useState<T | null>(null);
  const [past, setPast] = useState<T | null>(null);
  useEffect(() => {
    const kept = sortDraft(readLocal<Versioned<T>>(name), version);
    setDraft((now) => kept.now ?? (kept.past === null ? now : null));
    setPast(kept.past);
  }, [name, version]);
  const put = useCallback(
    (next: T | null) => {
      setDraft(next);
      setPast(null);
      writeLocal(name, next === null ? null : { version, draft: next });
    },
    [name, version],
  );
  return { draft, past, put };
}
