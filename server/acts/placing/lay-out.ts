import { z } from "zod";
import { type Day, toDay } from "../../../core/calendar/day";
import type { BenchId } from "../../../core/ids";
import { RUNS } from "../../../core/needs/run";
import { showDay } from "../../../core/numbers/format";
import { factorOf, parseQuantity, purchase, toStock } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { type Need, type PlanFor, usualPlan } from "../../queries/needs/need";
import { readChoices } from "../../queries/needs/needs";
import { needNow } from "../../queries/needs/one";
import { groundOf, withSource } from "../../queries/needs/plan";
import { readSource } from "../../queries/needs/positions";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { DayOrNone, Id, orNone, text } from "../fields";

/** So many needs lie on one bench at most. */
export const MOST_BENCH_ROWS = 2_000;

export const LayOut = z.object({
  needs: z
    .array(z.string().max(60))
    .min(1, "Tick at least one need.")
    .max(MOST_BENCH_ROWS, "At most 2,000 needs lie on a bench. Lay them out in parts."),
  /** The bench to lay them on; left out, a new one. */
  bench: orNone(Id).optional(),
  name: text(60).optional(),
  run: z.enum(RUNS, "There is no such rule.").default("usual"),
  asOf: DayOrNone.optional(),
});

/** Lays needs out on a bench, each with the supplier chosen in Needs or else the preferred one. One need lies on one bench. */
export function layOutBench(desk: Desk, raw: unknown): Done<{ bench: BenchId; laid: number; elsewhere: string[] }> {
  const input = checked(LayOut, raw);
  if (!input.ok) return input;
  const { needs, run, asOf, name } = input.value;
  return once(desk, "write orders", (tx) => {
    const to = input.value.bench
      ? sql<{ id: BenchId; run: typeof run; asOf: typeof asOf }>(
          tx.db,
          "SELECT id, run, as_of AS asOf FROM bench WHERE id = ? AND cleared IS NULL",
        ).get(input.value.bench)
      : null;
    if (input.value.bench && !to) return refuse("bench", "This bench was put away meanwhile. Lay them on another.");
    const ahead = asOf && asOf > desk.day ? asOf : null;
    if (to && (to.run !== run || (to.asOf ?? null) !== ahead))
      return refuse("bench", "That bench is worked out by another rule or for another day. Lay these on a new one.");
    const plan = { today: desk.day, hour: desk.hour, run, asOf: ahead ?? desk.day };
    const lying = new Map(
      sql<{ need: string; bench: string }>(
        tx.db,
        "SELECT r.need, b.name AS bench FROM bench_row r JOIN bench b ON b.id = r.bench WHERE r.need IN (SELECT value FROM json_each(?))",
      )
        .all(JSON.stringify(needs))
        .map((r) => [r.need, r.bench]),
    );
    const found: Need[] = [];
    for (const key of new Set(needs)) {
      if (lying.has(key)) continue;
      const need = needNow(tx.db, plan, key);
      if (!need)
        return stale(
          "One of the ticked needs is no longer in the list: somebody ordered it, or it is not needed any more.",
        );
      found.push(need);
    }
    const elsewhere = [...new Set(lying.values())];
    if (found.length === 0) return refuse("", `All of these lie on ${namesOf(elsewhere)} already.`);
    const bench = to?.id ?? makeBench(tx.db, desk, name || freeName(tx.db, desk), { run, asOf: ahead });
    const { last, rows } = sql<{ last: number; rows: number }>(
      tx.db,
      "SELECT coalesce(max(position), 0) AS last, count(*) AS rows FROM bench_row WHERE bench = ?",
    ).get(bench)!;
    if (rows + found.length > MOST_BENCH_ROWS)
      return refuse("", `A bench holds 2,000 needs at most; this one would hold ${rows + found.length}.`);
    putOnBench(tx.db, desk, bench, found, plan, last);
    tx.record("bench.laid-out", `bench ${bench}`, { needs: found.map((n) => n.key), run, asOf: ahead });
    return done({ bench, laid: found.length, elsewhere });
  });
}

/** Puts needs onto a bench after the rows that lie there, each as it was chosen in Needs. Call inside an act's transaction. */
function putOnBench(db: Db, desk: Desk, bench: BenchId, found: readonly Need[], plan: PlanFor, last = 0): void {
  const choices = readChoices(db, desk.person.id);
  const g = groundOf(db, plan, false);
  const addRow = sql(
    db,
    "INSERT INTO bench_row (bench, need, position, item, name, wanted, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
  );
  const addPart = sql(db, "INSERT INTO bench_part (need, supplier) VALUES (?, ?)");
  const forget = sql(db, "DELETE FROM need_choice WHERE person = ? AND need = ?");
  found.forEach((bare, i) => {
    const choice = choices.get(bare.key);
    const source = choice?.sourcing ? readSource(db, choice.sourcing) : null;
    const need = source && source.item === bare.item ? withSource(g, bare, source) : bare;
    const typed = choice?.quantity ? parseQuantity(choice.quantity) : null;
    const wanted = typed?.ok && typed.value !== need.buy ? toStock(purchase(typed.value), factorOf(need.factor)) : null;
    addRow.run(bench, need.key, last + i + 1, need.item, need.name, wanted, desk.person.id, desk.now);
    if (need.supplier) addPart.run(need.key, need.supplier.id);
    forget.run(desk.person.id, need.key);
  });
  sql(db, "UPDATE bench SET version = version + 1 WHERE id = ?").run(bench);
}

/**
 * Lays needs out on the bench of a name, in the words of another act; where one of them lies on a bench already, that is
 * the bench. Null where none of them is needed any more.
 */
export function layOutFor(db: Db, desk: Desk, keys: readonly string[], name: string): BenchId | null {
  const lies = sql<{ bench: BenchId }>(
    db,
    "SELECT bench FROM bench_row WHERE need IN (SELECT value FROM json_each(?)) LIMIT 1",
  ).get(JSON.stringify([...keys, ...keys.map((key) => key.replace("s:", "m:"))]));
  if (lies) return lies.bench;
  const plan = usualPlan(desk.day, desk.hour);
  const needsOf = (names: readonly string[]) => names.map((key) => needNow(db, plan, key)).filter((n) => n !== null);
  // What was merged stays merged.
  const merged = needsOf(keys.filter((key) => key.startsWith("s:")).map((key) => key.replace("s:", "m:")));
  const found = merged.length > 0 ? merged : needsOf(keys);
  if (found.length === 0) return null;
  const named = sql<{ id: BenchId; run: string; asOf: Day | null; last: number }>(
    db,
    "SELECT id, run, as_of AS asOf, (SELECT coalesce(max(position), 0) FROM bench_row WHERE bench = b.id) AS last FROM bench b WHERE name = ? AND cleared IS NULL",
  ).get(name);
  const suits = named?.run === plan.run && named.asOf === null;
  const bench = suits
    ? named.id
    : makeBench(db, desk, named ? freeName(db, desk) : name, { run: plan.run, asOf: null });
  putOnBench(db, desk, bench, found, plan, suits ? named.last : 0);
  return bench;
}

const namesOf = (benches: readonly string[]) => benches.map((b) => `“${b}”`).join(" and ");

function makeBench(db: Db, desk: Desk, name: string, { run, asOf }: { run: string; asOf: string | null }): number {
  return Number(
    sql(db, "INSERT INTO bench (name, maker, made, run, as_of) VALUES (?, ?, ?, ?, ?)").run(
      name,
      desk.person.id,
      desk.now,
      run,
      asOf,
    ).lastInsertRowid,
  );
}

/** A name nobody has given yet: the day, and a number where the day has several. */
export function freeName(db: Db, desk: Desk): string {
  const day = showDay(desk.day, toDay("2000-01-01"));
  const taken = (name: string) => sql(db, "SELECT 1 FROM bench WHERE name = ? AND cleared IS NULL").get(name);
  if (!taken(day)) return day;
  for (let n = 2; ; n++) if (!taken(`${day}, ${n}`)) return `${day}, ${n}`;
}
