import { useCallback, useEffect, useRef, useState } from "react";
import type { SourcingId } from "../../../core/ids";
import type { NeedRow, Ticked } from "../../../server/queries/needs/needs";
import { answerOf } from "../../ui/answer-of";
import { newKey } from "../../ui/submission";
import type { ChooseWord } from "./choose";

interface Part {
  ticked?: boolean;
  quantity?: string | null;
  sourcing?: SourcingId | null;
}

/**
 * What this person ticks, types and chooses: shown at once, kept on the server shortly after, and answered with what it
 * comes to. A lost connection is waited out.
 */
export function useChoices(first: readonly Ticked[], address: string, onChosen: () => void) {
  const [overlay, setOverlay] = useState<ReadonlyMap<string, Part>>(new Map());
  const [ticked, setTicked] = useState(first);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [working, setWorking] = useState(false);
  const pending = useRef(new Map<string, Part>());
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const running = useRef<Promise<boolean> | null>(null);
  const last = useRef(first);
  if (last.current !== first) {
    last.current = first;
    if (pending.current.size === 0) {
      setTicked(first);
      setOverlay(new Map());
    }
  }
  const chosen = useRef(onChosen);
  chosen.current = onChosen;
  const send = useCallback(
    async (body: { do: ChooseWord; choices?: readonly object[] }): Promise<boolean> => {
      const answer = await fetch(`/needs/choose?${address}`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ ...body, key: newKey() }),
      });
      if (answer.redirected) throw new Error("signed out");
      const said = await answerOf<{
        ok: boolean;
        value?: { ticked: Ticked[] };
        problems?: { says: string }[];
      }>(answer);
      setTrouble(said.ok ? null : (said.problems?.[0]?.says ?? "This could not be kept."));
      if (pending.current.size === 0) {
        if (said.ok && said.value) setTicked(said.value.ticked);
        setWorking(false);
      }
      return said.ok;
    },
    [address],
  );
  const run = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    if (running.current) {
      await running.current;
      return pending.current.size ? run() : true;
    }
    if (pending.current.size === 0) return true;
    const batch = pending.current;
    pending.current = new Map();
    const again = [...batch.values()].some((c) => c.sourcing !== undefined);
    running.current = send({ do: "choose", choices: [...batch].map(([need, c]) => ({ need, ...c })) })
      .then((ok) => {
        if (again) chosen.current();
        return ok;
      })
      .catch(() => {
        for (const [k, c] of batch) pending.current.set(k, { ...c, ...pending.current.get(k) });
        setTrouble("No connection: what you choose is kept here and sent when it is back.");
        timer.current = setTimeout(() => void run(), 3000);
        return false;
      })
      .finally(() => {
        running.current = null;
      });
    const ok = await running.current;
    if (ok && pending.current.size) return run();
    return ok;
  }, [send]);
  const choose = useCallback(
    (key: string, part: Part) => {
      setWorking(true);
      setOverlay((o) => new Map(o).set(key, { ...o.get(key), ...part }));
      pending.current.set(key, { ...pending.current.get(key), ...part });
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void run(), 350);
    },
    [run],
  );
  useEffect(() => {
    const leave = (e: BeforeUnloadEvent) => {
      if (pending.current.size) {
        void run();
        e.preventDefault();
      }
    };
    addEventListener("beforeunload", leave);
    return () => {
      removeEventListener("beforeunload", leave);
      void run();
    };
  }, [run]);
  const keys = new Set(ticked.map((t) => t.key));
  for (const [key, c] of overlay) {
    if (c.ticked === true) keys.add(key);
    if (c.ticked === false) keys.delete(key);
  }
  return {
    ticked,
    keys,
    trouble,
    /** Something was just chosen, and what it comes to is not answered yet. */
    working,
    choose,
    /** What was typed for a row, or null where the suggestion stands. */
    typed: (row: NeedRow): string | null => {
      const here = overlay.get(row.key);
      return here && "quantity" in here ? (here.quantity ?? null) : (row.choice?.quantity ?? null);
    },
    /** Waits until everything is kept. */
    settle: run,
    /** Ticks all that is shown, or forgets every choice. */
    all: async (what: "tick shown" | "forget") => {
      await run();
      setOverlay(new Map());
      try {
        await send({ do: what });
      } catch {
        setTrouble("No connection. Try again in a moment.");
      }
      chosen.current();
    },
  };
}

/** Looks now and then whether the plan has moved on, and how far the next one is. */
export function usePlanTick(at: number, address: string, onMoved: () => void) {
  const [now, setNow] = useState<{ working: { done: number; of: number } | null; stopped: boolean } | null>(null);
  const moved = useRef(onMoved);
  moved.current = onMoved;
  const busy = now?.working !== null && now !== null;
  useEffect(() => {
    const look = async () => {
      if (document.hidden) return;
      try {
        const answer = await fetch(`/needs/tick?${address}`);
        if (!answer.ok || answer.redirected) return;
        const said = await answerOf<{
          at: number;
          working: { done: number; of: number } | null;
          stopped: boolean;
        }>(answer);
        setNow(said);
        if (said.at !== at && !said.working) moved.current();
      } catch {
        // No connection: the sheet stays as it is until it is back.
      }
    };
    const timer = setInterval(look, busy ? 700 : 4000);
    return () => clearInterval(timer);
  }, [at, address, busy]);
  return now;
}
