import { useCallback, useEffect, useRef, useState } from "react";
import { readLocal, writeLocal } from "./local-draft";
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

/** A save on its way: sent again as it is, under its key, until it is answered. */
interface Batch<T> {
  key: string;
  version: number;
  draft: T;
}
interface Copy<T> {
  flying: Batch<T> | null;
  pending: T | null;
  version: number;
}

/**
 * Saves a draft as it is typed. One save runs at a time and the newest wins. A save whose answer was lost is sent again under
 * the same key, so that one that arrived is never taken for somebody else's. What is not kept yet stays in this browser, and is
 * read again after a crash: `onRestored` hears of it. A draft that somebody else saved is never overwritten: `state` becomes
 * "stale" until the person chooses. Where only what changed is sent, `merge` puts two such changes together, and
 * `onKept` hears what the server made of them. `body` is what travels of a draft.
 */
export function useKept<T extends object, A extends object = object>(
  url: string,
  version: number,
  storage: string,
  {
    merge,
    onKept,
    onRestored,
    body,
  }: {
    merge?: (older: T, newer: T) => T;
    onKept?: (answer: A, settled: boolean) => void;
    onRestored?: (draft: T) => void;
    body?: (draft: T) => object;
  } = {},
) {
  const [state, setState] = useState<Keeping>("kept");
  const [problems, setProblems] = useState<Problem[]>([]);
  const at = useRef(version);
  const flying = useRef<Batch<T> | null>(null);
  const pending = useRef<T | null>(null);
  const refused = useRef<T | null>(null); // what the server would not take goes along with the next change
  const latest = useRef({ merge, onKept, onRestored, body });
  latest.current = { merge, onKept, onRestored, body };
  const save = useCallback(() => {
    const left = pending.current ?? refused.current;
    const copy: Copy<T> = { flying: flying.current, pending: left, version: at.current };
    writeLocal(storage, copy.flying || left ? copy : null);
  }, [storage]);
  const put = useCallback((draft: T) => {
    const older = pending.current ?? refused.current;
    refused.current = null;
    pending.current = older && latest.current.merge ? latest.current.merge(older, draft) : draft;
  }, []);
  /** What was not taken stands before what was typed since. */
  const back = useCallback((draft: T) => {
    const { merge: join } = latest.current;
    pending.current = pending.current ? (join ? join(draft, pending.current) : pending.current) : draft;
  }, []);
  const running = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  const run = useCallback(async (): Promise<boolean> => {
    if (running.current) return false;
    running.current = true;
    clearTimeout(timer.current);
    try {
      while (flying.current || pending.current) {
        if (!flying.current) {
          flying.current = { key: newKey(), version: at.current, draft: pending.current! };
          pending.current = null;
        }
        const { key, version: from, draft } = flying.current;
        save();
        setState("keeping");
        let answer: Answer<A>;
        try {
          const response = await fetch(url, {
            method: "POST",
            headers: { "content-type": "application/json" },
            body: JSON.stringify({ ...(latest.current.body?.(draft) ?? draft), version: from, key }),
          });
          if (response.redirected) {
            setProblems([
              { field: "", says: "You have been signed out. Sign in in another window; what you typed is still here." },
            ]);
            throw new Error("signed out");
          }
          answer = (await response.json()) as Answer<A>;
        } catch {
          setState("waiting for the connection");
          timer.current = setTimeout(() => void run(), 3000);
          return false;
        }
        flying.current = null;
        if (answer.ok && answer.value) {
          at.current = answer.value.version;
          setProblems([]);
          latest.current.onKept?.(answer.value, pending.current === null);
          if (!pending.current) setState("kept");
        } else if (answer.stale) {
          back(draft);
          save();
          setState("stale");
          return false;
        } else {
          setProblems(answer.problems ?? [{ field: "", says: "This could not be kept." }]);
          setState("not kept");
          if (latest.current.merge) refused.current = draft;
          save();
          if (!pending.current) return false;
        }
        save();
      }
      return true;
    } finally {
      running.current = false;
    }
  }, [url, back, save]);

  // What a crash, a closed window or a lost connection left here.
  useEffect(() => {
    const copy = readLocal<Copy<T>>(storage);
    if (!copy || (!copy.flying && !copy.pending)) return;
    at.current = copy.version ?? at.current;
    flying.current = copy.flying ?? null;
    pending.current = copy.pending ?? null;
    const { merge: join, onRestored: heard } = latest.current;
    const first = copy.flying?.draft ?? null;
    const whole = first && copy.pending ? (join ? join(first, copy.pending) : copy.pending) : (copy.pending ?? first);
    heard?.(whole!);
    void run();
  }, [storage, run]);

  /** Keeps the draft shortly, or at once. */
  const keep = useCallback(
    (draft: T, soon = 500) => {
      put(draft);
      setState((s) => (s === "stale" ? s : "keeping"));
      save();
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void run(), soon);
    },
    [run, save, put],
  );

  /** Waits until what was typed is kept; false where it is not. */
  const settle = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    while (running.current) await new Promise((r) => setTimeout(r, 30));
    return flying.current || pending.current ? run() : true;
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
      save();
      setState("kept");
      setProblems([]);
    },
    [save],
  );
  useEffect(() => {
    if (version > at.current && !flying.current && !pending.current && !running.current) at.current = version;
  }, [version]);
  useEffect(() => () => clearTimeout(timer.current), []);
  useEffect(() => {
    const leave = (e: BeforeUnloadEvent) => {
      if (flying.current || pending.current || running.current) e.preventDefault();
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
    pending: () => pending.current ?? flying.current?.draft ?? null,
    version: () => at.current,
  };
}
