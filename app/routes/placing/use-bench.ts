import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { BenchId, SupplierId } from "../../../core/ids";
import { type Choice, partOf, placingFrom } from "../../../core/placing/choice";
import type { PlacedRow, RowPart } from "../../../core/placing/problem";
import {
  type Landed,
  landedAt,
  landedOf,
  type Reckoned,
  reckonPlacing,
  rowsByOrder,
} from "../../../core/placing/reckon";
import type { Plans } from "../../../server/jobs/placing/plans";
import type { BenchSheet } from "../../../server/queries/placing/bench";
import { answerOf } from "../../ui/answer-of";
import { newKey } from "../../ui/submission";

/** What one row's act says; the row's version is added when it is sent. */
type Act = { what: string } & Record<string, unknown>;

export interface Grid {
  reckoned: Reckoned;
  choices: Readonly<Record<string, readonly Choice[]>>;
  former: Readonly<Record<string, readonly number[]>>;
  chosen: (row: PlacedRow) => readonly RowPart[];
  /** What the row costs at a supplier: as chosen there, or as it would be if it were. */
  cell: (row: PlacedRow, supplier: SupplierId) => Landed | null;
}

/**
 * The grid as a person sees it: the server's choices with their own on top, at once; every total follows in the same
 * drawing. Each choice is kept on the server shortly after; where somebody else changed the row, theirs stands, and one is told.
 */
export function useBench(sheet: BenchSheet, onChanged: () => void) {
  const [mine, setMine] = useState<ReadonlyMap<string, Choice[]>>(new Map());
  const [trouble, setTrouble] = useState<string | null>(null);
  const versions = useRef(new Map<string, number>());
  const pending = useRef(new Map<string, Act>());
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const running = useRef<Promise<boolean> | null>(null);
  const of = useRef<BenchSheet | null>(null);
  if (of.current !== sheet) {
    of.current = sheet;
    versions.current = new Map([
      ...Object.entries(sheet.rows).map(([key, r]): [string, number] => [key, r.version]),
      ...sheet.gone.map((g): [string, number] => [g.key, g.version]),
    ]);
    if (pending.current.size === 0 && mine.size > 0) setMine(new Map());
  }
  const changed = useRef(onChanged);
  changed.current = onChanged;
  const send = useCallback(
    async (need: string, act: Act): Promise<boolean> => {
      const answer = await fetch(`/bench/${sheet.head.id}/choose`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ need, row: versions.current.get(need) ?? 0, ...act, key: newKey() }),
      });
      if (answer.redirected) throw new Error("signed out");
      const said = await answerOf<{
        ok: boolean;
        value?: { row: number };
        problems?: { says: string }[];
      }>(answer);
      if (said.ok && said.value) {
        versions.current.set(need, said.value.row);
        setTrouble(null);
      } else {
        setTrouble(said.problems?.[0]?.says ?? "This could not be kept.");
        setMine((m) => {
          const rest = new Map(m);
          rest.delete(need);
          return rest;
        });
      }
      return said.ok;
    },
    [sheet.head.id],
  );
  const run = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    if (running.current) await running.current;
    if (pending.current.size === 0) return true;
    const batch = [...pending.current];
    pending.current = new Map();
    const work = (async () => {
      let all = true;
      let again = false;
      for (const [need, act] of batch) {
        try {
          const ok = await send(need, act);
          all &&= ok;
          again ||= !ok || act.what !== "supplier";
        } catch {
          if (!pending.current.has(need)) pending.current.set(need, act);
          setTrouble("No connection: what you choose is kept here and sent when it is back.");
          timer.current = setTimeout(() => void run(), 3000);
          all = false;
        }
      }
      if (again) changed.current();
      return all;
    })();
    running.current = work;
    const ok = await work;
    running.current = null;
    return ok;
  }, [send]);
  /** Keeps an act on a row; `now` is what the grid shows meanwhile. */
  const choose = useCallback(
    (need: string, act: Act, now?: Choice[], soon = false) => {
      if (now) setMine((m) => new Map(m).set(need, now));
      // A further wish for the same row takes the place of the one that was not sent yet, if it is of the same kind.
      const before = pending.current.get(need);
      if (before && before.what !== act.what) {
        void run().then(() => {
          pending.current.set(need, act);
          return run();
        });
        return;
      }
      pending.current.set(need, act);
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void run(), soon ? 0 : 350);
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

  const grid = useMemo((): Grid => {
    const { problem } = sheet;
    const choices: Record<string, readonly Choice[]> = { ...sheet.choices };
    const former: Record<string, readonly number[]> = { ...sheet.former };
    for (const [need, now] of mine) {
      const was = (sheet.choices[need] ?? []).map((c) => c.supplier);
      if (was.join() !== now.map((c) => c.supplier).join()) former[need] = was;
      choices[need] = now;
    }
    const placing = placingFrom(problem.rows, choices);
    const reckoned = reckonPlacing(problem, placing);
    const orders = new Map(reckoned.orders.map((o) => [o.key, o]));
    const there = rowsByOrder(problem, placing);
    const cells = new Map<string, Landed | null>();
    return {
      reckoned,
      choices,
      former,
      chosen: (row) => placing[row.id] ?? [],
      cell(row, supplier) {
        const name = `${row.id}|${supplier}`;
        let cell = cells.get(name);
        if (cell === undefined) {
          const order = placing[row.id]?.some((p) => p.supplier === supplier)
            ? orders.get(`${supplier}/${row.store}`)
            : undefined;
          if (order) cell = landedOf(order, row, problem.home);
          else {
            const part = partOf(row, { supplier, share: null, buy: null });
            cell = part && landedAt(problem, placing, there, row, part);
          }
          cells.set(name, cell);
        }
        return cell;
      },
    };
  }, [sheet, mine]);
  return { grid, choose, settle: run, trouble };
}

/** How far a bench is; null where there is no connection: then it stays as it is until it is back. */
async function tickOf(bench: BenchId, mark: string): Promise<{ version: number; plans: Plans | null } | null> {
  try {
    const answer = await fetch(`/bench/${bench}/tick?mark=${mark}`);
    return answer.ok && !answer.redirected ? await answer.json() : null;
  } catch {
    return null;
  }
}

/** Looks now and then whether somebody changed the bench, and how far its plans are. */
export function useBenchTick(bench: BenchId, mark: string, version: number, first: Plans | null, onMoved: () => void) {
  const [plans, setPlans] = useState<Plans | null>(first);
  const moved = useRef(onMoved);
  moved.current = onMoved;
  const seen = useRef(version);
  seen.current = Math.max(seen.current, version);
  const [round, again] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: plans that are begun again are looked for at once
  useEffect(() => {
    let stopped = false;
    let timer: ReturnType<typeof setTimeout>;
    const look = async () => {
      const said = document.hidden ? null : await tickOf(bench, mark);
      if (stopped) return;
      if (said) {
        setPlans(said.plans);
        if (said.version > seen.current) {
          seen.current = said.version;
          moved.current();
        }
      }
      timer = setTimeout(look, said?.plans?.working ? 500 : 3000);
    };
    timer = setTimeout(look, 150);
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
  }, [bench, mark, round]);
  return { plans: plans?.mark === mark ? plans : null, look: () => again((n) => n + 1) };
}
