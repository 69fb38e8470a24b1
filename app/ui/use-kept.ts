import { useCallback, useEffect, useRef, useState } from "react";
import { answerOf } from "./answer-of";
import {
  allKept,
  type Copy,
  copyOf,
  isLeft,
  landed,
  launched,
  type Merge,
  outdated,
  restored,
  type Save,
  turnedAway,
  typed,
  type Unkept,
} from "./kept-draft";
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

class SignedOut extends Error {}

/** Sends a save, and reads what is answered; throws where no answer came. */
async function sent<A, T extends object>(
  url: string,
  { key, version, draft }: Save<T>,
  body: ((draft: T) => object) | undefined,
): Promise<Answer<A>> {
  const response = await fetch(url, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ ...(body?.(draft) ?? draft), version, key }),
  });
  if (response.redirected)
    throw new SignedOut("You have been signed out. Sign in in another window; what you typed is still here.");
  return await answerOf<Answer<A>>(response);
}

/**
 * Saves a draft as it is typed. One save runs at a time and the newest wins. A save whose answer was lost is sent again under
 * the same key, so that one that arrived is never landed for somebody else's. What is not kept yet stays in this browser, and is
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
    merge?: Merge<T>;
    onKept?: (answer: A, settled: boolean) => void;
    onRestored?: (draft: T) => void;
    body?: (draft: T) => object;
  } = {},
) {
  const [state, setState] = useState<Keeping>("kept");
  const [problems, setProblems] = useState<Problem[]>([]);
  const unkept = useRef<Unkept<T>>(allKept(version));
  const latest = useRef({ merge, onKept, onRestored, body });
  latest.current = { merge, onKept, onRestored, body };
  /** What is not kept changed: this device keeps that, too. */
  const put = useCallback(
    (next: Unkept<T>) => {
      unkept.current = next;
      writeLocal(storage, copyOf(next));
    },
    [storage],
  );
  const running = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  /** What the server answered to what is on its way; whether more may be sent. */
  const hear = useCallback(
    (answer: Answer<A>): boolean => {
      const { merge: join, onKept: heard } = latest.current;
      if (answer.ok && answer.value) {
        put(landed(unkept.current, answer.value.version));
        setProblems([]);
        const settled = unkept.current.pending === null;
        heard?.(answer.value, settled);
        if (settled) setState("kept");
        return true;
      }
      if (answer.stale) {
        put(outdated(unkept.current, join));
        setState("stale");
        return false;
      }
      put(turnedAway(unkept.current, join));
      setProblems(answer.problems ?? [{ field: "", says: "This could not be kept." }]);
      setState("not kept");
      return unkept.current.pending !== null;
    },
    [put],
  );

  const run = useCallback(async (): Promise<boolean> => {
    if (running.current) return false;
    running.current = true;
    clearTimeout(timer.current);
    try {
      while (isLeft(unkept.current)) {
        const next = launched(unkept.current, newKey());
        put(next);
        setState("keeping");
        let answer: Answer<A>;
        try {
          answer = await sent<A, T>(url, next.flying, latest.current.body);
        } catch (e) {
          if (e instanceof SignedOut) setProblems([{ field: "", says: e.message }]);
          setState("waiting for the connection");
          timer.current = setTimeout(() => void run(), 3000);
          return false;
        }
        if (!hear(answer)) return false;
      }
      return true;
    } finally {
      running.current = false;
    }
  }, [url, put, hear]);

  // What a crash, a closed window or a lost connection left here.
  useEffect(() => {
    const left = restored(readLocal<Copy<T>>(storage), unkept.current.version, latest.current.merge);
    if (!left) return;
    unkept.current = left.unkept;
    latest.current.onRestored?.(left.draft);
    void run();
  }, [storage, run]);

  /** Keeps the draft shortly, or at once. */
  const keep = useCallback(
    (draft: T, soon = 500) => {
      put(typed(unkept.current, draft, latest.current.merge));
      setState((s) => (s === "stale" ? s : "keeping"));
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void run(), soon);
    },
    [run, put],
  );

  /** Waits until what was typed is kept; false where it is not. */
  const settle = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    while (running.current) await new Promise((r) => setTimeout(r, 30));
    return isLeft(unkept.current) ? run() : true;
  }, [run]);

  /** After a stale save: go on from the version that is kept now, with what this person typed. */
  const insist = useCallback(
    (newest: number) => {
      put({ ...unkept.current, version: newest });
      void run();
    },
    [run, put],
  );
  /** After a stale save: drop what this person typed. */
  const yieldTo = useCallback(
    (newest: number) => {
      put({ ...allKept<T>(newest), flying: unkept.current.flying });
      setState("kept");
      setProblems([]);
    },
    [put],
  );
  useEffect(() => {
    const { current: k } = unkept;
    if (version > k.version && !isLeft(k) && !running.current) unkept.current = { ...k, version };
  }, [version]);
  useEffect(() => () => clearTimeout(timer.current), []);
  useEffect(() => {
    const leave = (e: BeforeUnloadEvent) => {
      if (isLeft(unkept.current) || running.current) e.preventDefault();
    };
    addEventListener("beforeunload", leave);
    return () => removeEventListener("beforeunload", leave);
  }, []);
  /** Another act moved the draft on to this version. */
  const movedTo = useCallback((newest: number) => {
    unkept.current = { ...unkept.current, version: newest };
  }, []);
  return {
    state,
    problems,
    keep,
    settle,
    insist,
    yieldTo,
    movedTo,
    pending: () => unkept.current.pending ?? unkept.current.flying?.draft ?? null,
    version: () => unkept.current.version,
  };
}
