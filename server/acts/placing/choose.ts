import { z } from "zod";
import type { BenchId, ItemId, PersonId, SupplierId } from "../../../core/ids";
import { stock } from "../../../core/numbers/quantity";
import { type Choice, choicesFrom } from "../../../core/placing/choice";
import { type Db, sql } from "../../db/open";
import { placingOfPlan } from "../../jobs/placing/plans";
import { readBench } from "../../queries/placing/bench";
import { readAskable } from "../../queries/suppliers/their-stock";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id, QuantityField, QuantityOrNone, Version } from "../fields";
import { holdSaid } from "../suppliers/take-said";

const Cell = z.object({ bench: Id, need: z.string().max(60), row: Version });
const ChooseOnBench = z.discriminatedUnion("what", [
  Cell.extend({ what: z.literal("supplier"), supplier: Id }),
  /** The price that a supplier said today, and with it that supplier. */
  Cell.extend({ what: z.literal("said"), said: Id }),
  Cell.extend({ what: z.literal("none") }),
  Cell.extend({
    what: z.literal("split"),
    parts: z
      .array(z.object({ supplier: Id, share: QuantityField }))
      .min(1)
      .max(40, "At most 40 suppliers."),
  }),
  Cell.extend({ what: z.literal("quantity"), wanted: QuantityOrNone }),
  Cell.extend({ what: z.literal("lock"), on: z.boolean() }),
  Cell.extend({ what: z.literal("may split"), on: z.boolean() }),
  Cell.extend({ what: z.literal("set aside") }),
]);

interface RowNow {
  bench: BenchId;
  version: number;
  by: string;
  person: PersonId;
  chosen: string | null;
  parts: number;
  item: ItemId | null;
}

/** One row of a bench: who supplies it, how much, whether it is locked or may be split; or takes it off the bench. */
export function chooseOnBench(desk: Desk, raw: unknown): Done<{ row: number; bench: BenchId }> {
  const input = checked(ChooseOnBench, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "write orders", (tx) => {
    const row = sql<RowNow>(
      tx.db,
      `SELECT r.bench, r.version, r.item, p.name AS "by", r.person,
              (SELECT count(*) FROM bench_part q WHERE q.need = r.need AND q.former = 0) AS parts,
              (SELECT group_concat(s.name, ' and ') FROM bench_part q JOIN supplier s ON s.id = q.supplier WHERE q.need = r.need AND q.former = 0) AS chosen
       FROM bench_row r JOIN person p ON p.id = r.person WHERE r.bench = ? AND r.need = ?`,
    ).get(v.bench, v.need);
    if (!row) return stale("This need lies on this bench no longer: somebody ordered it or set it aside.");
    if (row.version !== v.row)
      return stale(
        `${row.by} changed this row meanwhile${row.chosen ? `: it is at ${row.chosen} now` : ""}. Choose again if you still want to.`,
      );
    switch (v.what) {
      case "supplier":
        keepParts(tx.db, v.need, [{ supplier: v.supplier, share: null, buy: null }]);
        break;
      case "said": {
        const held = holdSaid(tx.db, desk, v.said);
        if (!held.ok) return held;
        const of = readAskable(tx.db, held.value.sourcing)!;
        if (row.item !== of.item) return refuse("", "They were asked about something else.");
        keepParts(tx.db, v.need, [{ supplier: of.supplier, share: null, buy: null }]);
        break;
      }
      case "none":
        keepParts(tx.db, v.need, []);
        break;
      case "split": {
        if (new Set(v.parts.map((p) => p.supplier)).size < v.parts.length)
          return refuse("parts", "Each supplier once: put its parts together.");
        const parts = v.parts.map((p) => ({ supplier: p.supplier, share: stock(p.share), buy: null }));
        keepParts(tx.db, v.need, parts.length === 1 ? [{ ...parts[0]!, share: null }] : parts);
        break;
      }
      case "quantity":
        if (row.parts > 1)
          return refuse("wanted", "This need is split. Change its parts instead, or give it to one supplier first.");
        sql(tx.db, "UPDATE bench_row SET wanted = ? WHERE need = ?").run(v.wanted, v.need);
        // What a plan raised to reach a break was meant for the old quantity.
        sql(tx.db, "UPDATE bench_part SET buy = NULL WHERE need = ?").run(v.need);
        break;
      case "lock":
        if (v.on && !row.chosen) return refuse("", "Choose a supplier first; then the choice can be locked.");
        sql(tx.db, "UPDATE bench_row SET locked = ? WHERE need = ?").run(v.on ? 1 : 0, v.need);
        break;
      case "may split":
        sql(tx.db, "UPDATE bench_row SET may_split = ? WHERE need = ?").run(v.on ? 1 : 0, v.need);
        break;
      case "set aside":
        sql(tx.db, "DELETE FROM bench_row WHERE need = ?").run(v.need);
        break;
    }
    const version = touch(tx.db, desk, v.bench, v.need);
    const { bench, need, row: _, ...rest } = v;
    tx.record("bench.chosen", `bench ${bench}`, { need, ...rest, before: row.chosen });
    return done({ row: v.row + 1, bench: version });
  });
}

/** What was chosen stays as the former choice, so that one sees what moved. */
function keepParts(db: Db, need: string, parts: readonly Choice[]): void {
  const before = sql<{ supplier: SupplierId }>(db, "SELECT supplier FROM bench_part WHERE need = ? AND former = 0").all(
    need,
  );
  const same = before.length === parts.length && before.every((b) => parts.some((p) => p.supplier === b.supplier));
  if (!same) {
    sql(db, "DELETE FROM bench_part WHERE need = ? AND former = 1").run(need);
    sql(db, "UPDATE bench_part SET former = 1, share = NULL, buy = NULL WHERE need = ?").run(need);
    const again = sql(db, "DELETE FROM bench_part WHERE need = ? AND supplier = ? AND former = 1");
    for (const p of parts) again.run(need, p.supplier);
  } else sql(db, "DELETE FROM bench_part WHERE need = ? AND former = 0").run(need);
  const add = sql(db, "INSERT INTO bench_part (need, supplier, share, buy) VALUES (?, ?, ?, ?)");
  for (const p of parts) add.run(need, p.supplier, p.share, p.buy);
}

function touch(db: Db, desk: Desk, bench: BenchId, need: string): number {
  sql(db, "UPDATE bench_row SET version = version + 1, person = ?, at = ? WHERE need = ?").run(
    desk.person.id,
    desk.now,
    need,
  );
  return sql<{ version: number }>(db, "UPDATE bench SET version = version + 1 WHERE id = ? RETURNING version").get(
    bench,
  )!.version;
}

export const TakePlan = z.object({
  bench: Id,
  aim: z.enum(["preferred", "lowest", "in time", "fewest"], "There is no such plan."),
  /** The problem that the plan was worked out for. */
  mark: z.string().max(40),
});

/**
 * Fills the grid by a plan. Locked rows are in it as they were locked; what it leaves out is chosen nowhere then, so that it
 * is not written with it.
 */
export function takePlan(desk: Desk, raw: unknown): Done<{ taken: number; left: string[] }> {
  const input = checked(TakePlan, raw);
  if (!input.ok) return input;
  const { bench, aim, mark } = input.value;
  return once(desk, "write orders", (tx) => {
    const sheet = readBench(tx.db, bench, desk.day, desk.hour);
    if (!sheet || sheet.head.cleared) return refuse("", "This bench was put away meanwhile.");
    if (sheet.mark !== mark)
      return stale("Needs, prices or locks changed since this plan was worked out. Work the plans out again.");
    const placing = placingOfPlan(mark, sheet.problem, aim);
    if (!placing) return refuse("", "This plan is not there any more. Work the plans out again.");
    let taken = 0;
    const left: string[] = [];
    for (const row of sheet.problem.rows) {
      const parts = placing[row.id] ?? [];
      const isLeft = parts.length === 0;
      if (isLeft) left.push(row.name);
      if (row.locked && !isLeft) continue;
      if (row.locked) sql(tx.db, "UPDATE bench_row SET locked = 0 WHERE need = ?").run(row.id);
      const now = choicesFrom(row, parts);
      if (JSON.stringify(now) === JSON.stringify(sheet.choices[row.id] ?? [])) continue;
      keepParts(tx.db, row.id, now);
      sql(tx.db, "UPDATE bench_row SET version = version + 1, person = ?, at = ? WHERE need = ?").run(
        desk.person.id,
        desk.now,
        row.id,
      );
      if (!isLeft) taken++;
    }
    sql(tx.db, "UPDATE bench SET version = version + 1 WHERE id = ?").run(bench);
    tx.record("bench.plan-taken", `bench ${bench}`, { aim, placing, left });
    return done({ taken, left });
  });
}
