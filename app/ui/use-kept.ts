import { useCallback, useEffect, useRef, useState } from "react";
import { newKey } from "./submission";

interface Problem {
  field: string;
  says: string;
}
export type Keeping = "kept" | "keeping" | "waiting for the connection" | "stale" | "not kept";

interface Answer<A> {
  ok: boolean;
  value?: { version: number } & A;
  problems?: Problem[];
  stale?: true;
}

/**
 * Saves a draft as it is typed. One save runs at a time and the newest wins; a lost connection is waited out, and a copy
 * stays in this browser until the server has it. A draft that somebody else saved is never overwritten: `state` becomes
 * "stale" until the person chooses. Where only what changed is sent, `merge` puts two such changes together, and
 * `onKept` hears what the server made of them.
 */
export function useKept<T extends object, A extends object = object>(
  url: string,
  version: number,
  storage: string,
  { merge, onKept }: { merge?: (older: T, newer: T) => T; onKept?: (answer: A, settled: boolean) => void } = {},
) {
  const [state, setState] = useState<Keeping>("kept");
  const [problems, setProblems] = useState<Problem[]>([]);
  const at = useRef(version);
  const pending = useRef<T | null>(null);
  const refused = useRef<T | null>(null); // what the server would not take goes along with the next change
  const latest = useRef({ merge, onKept });
  latest.current = { merge, onKept };
  const put = useCallback((draft: T) => {
    const older = pending.current ?? refused.current;
    refused.current = null;
    pending.current = older && latest.current.merge ? latest.current.merge(older, draft) : draft;
  }, []);
  /** What could not be sent stands before what was typed since. */
  const back = useCallback((draft: T) => {
    const { merge: join } = latest.current;
    pending.current = pending.current ? (join ? join(draft, pending.current) : pending.current) : draft;
  }, []);
  const running = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  const run = useCallback(async (): Promise<boolean> => {
    if (running.current) return false;
    running.current = true;
    try {
      while (pending.current) {
        const draft = pending.current;
        pending.current = null;
        setState("keeping");
        let answer: Answer<A>;
        try {
          const response = await fetch(url, {
            method: "POST",
            headers: { "content-type": "application/json" },
            body: JSON.stringify({ ...draft, version: at.current, key: newKey() }),
          });
          if (response.redirected) {
            setProblems([
              { field: "", says: "You have been signed out. Sign in in another window; what you typed is still here." },
            ]);
            throw new Error("signed out");
          }
          answer = (await response.json()) as Answer<A>;
        } catch {
          back(draft);
          setState("waiting for the connection");
          timer.current = setTimeout(() => void run(), 3000);
          return false;
        }
        if (answer.ok && answer.value) {
          at.current = answer.value.version;
          setProblems([]);
          latest.current.onKept?.(answer.value, pending.current === null);
          if (!pending.current) {
            setState("kept");
            localStorage.removeItem(storage);
          }
        } else if (answer.stale) {
          back(draft);
          setState("stale");
          return false;
        } else {
          setProblems(answer.problems ?? [{ field: "", says: "This could not be kept." }]);
          setState("not kept");
          if (latest.current.merge) refused.current = draft;
          if (!pending.current) return false;
        }
      }
      return true;
    } finally {
      running.current = false;
    }
  }, [url, storage, back]);

  /** Keeps the draft shortly, or at once. */
  const keep = useCallback(
    (draft: T, soon = 500) => {
      put(draft);
      setState((s) => (s === "stale" ? s : "keeping"));
      localStorage.setItem(storage, JSON.stringify(pending.current));
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void run(), soon);
    },
    [run, storage, put],
  );

  /** Waits until what was typed is kept; false where it is not. */
  const settle = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    while (running.current) await new Promise((r) => setTimeout(r, 30));
    return pending.current ? run() : true;
  }, [run]);

  /** After a stale save: go on from the version that is kept now, with what this person typed. */
  const insist = useCallback(
    (newest: number) => {
      at.current = newest;
      void run();
    },
    [run],
  );
  /** After a stale save: drop what this person typed. */
  const yieldTo = useCallback(
    (newest: number) => {
      at.current = newest;
      pending.current = null;
      refused.current = null;
      localStorage.removeItem(storage);
      setState("kept");
      setProblems([]);
    },
    [storage],
  );
  useEffect(() => {
    if (version > at.current && !pending.current && !running.current) at.current = version;
  }, [version]);
  useEffect(() => () => clearTimeout(timer.current), []);
  useEffect(() => {
    const leave = (e: BeforeUnloadEvent) => {
      if (pending.current || running.current) e.preventDefault();
    };
    addEventListener("beforeunload", leave);
    return () => removeEventListener("beforeunload", leave);
  }, []);
  /** Another act moved the draft on to this version. */
  const movedTo = useCallback((newest: number) => {
    at.current = newest;
  }, []);
  return {
    state,
    problems,
    keep,
    settle,
    insist,
    yieldTo,
    movedTo,
    pending: () => pending.current,
    version: () => at.current,
  };
}
