import { z } from "zod";
import type { BenchId, SupplierId } from "../../../core/ids";
import { ofOrderKey } from "../../../core/placing/problem";
import { type Db, sql } from "../../db/open";
import { type AheadNeed, readAhead } from "../../queries/placing/ahead";
import { readBench } from "../../queries/placing/bench";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id } from "../fields";

export const BringForward = z.object({
  bench: Id,
  order: z.string().regex(/^\d{1,15}\/\d{1,15}$/, "There is no such order."),
  ids: z.array(z.string().max(60)).min(1, "There is nothing to bring forward.").max(500, "At most 500 at once."),
});

/** Fills an order up: needs of the coming weeks join the bench at its supplier, or rows that lie there are raised. */
export function bringForward(desk: Desk, raw: unknown): Done<{ brought: number }> {
  const input = checked(BringForward, raw);
  if (!input.ok) return input;
  const { bench, order, ids } = input.value;
  const { supplier, store } = ofOrderKey(order);
  return once(desk, "write orders", (tx) => {
    const sheet = readBench(tx.db, bench, desk.day, desk.hour);
    if (!sheet || sheet.head.cleared) return refuse("", "This bench was put away meanwhile.");
    const ahead = new Map(readAhead(tx.db, sheet, { supplier, store }, desk.day, desk.hour).map((a) => [a.row.id, a]));
    for (const id of ids) {
      const found = ahead.get(id);
      if (!found?.row.offers.some((o) => o.supplier === supplier))
        return stale("What could be brought forward changed meanwhile. Look at it again.");
      bring(tx.db, desk, bench, supplier, found);
    }
    sql(tx.db, "UPDATE bench SET version = version + 1 WHERE id = ?").run(bench);
    tx.record("bench.brought-forward", `bench ${bench}`, { order, ids });
    return done({ brought: ids.length });
  });
}

function bring(db: Db, desk: Desk, bench: BenchId, supplier: SupplierId, { need, row, how }: AheadNeed): void {
  if (how === "raise") {
    sql(
      db,
      "UPDATE bench_row SET wanted = coalesce(wanted, ?) + ?, version = version + 1, person = ?, at = ? WHERE need = ?",
    ).run(need.wanted, row.wanted, desk.person.id, desk.now, need.key);
    sql(db, "UPDATE bench_part SET buy = NULL WHERE need = ?").run(need.key);
    return;
  }
  const key =
    how === "lay out"
      ? need.key
      : `n:${
          sql(
            db,
            `INSERT INTO noted_need (source, ahead, item, code, store, quantity, needed_by, note, person, at)
             VALUES ('repeat', 1, ?, ?, ?, ?, ?, 'brought forward to fill an order up', ?, ?)`,
          ).run(need.item, need.code, need.store, need.wanted, need.neededOn, desk.person.id, desk.now).lastInsertRowid
        }`;
  sql(
    db,
    `INSERT INTO bench_row (bench, need, position, item, name, person, at)
     VALUES (?, ?, (SELECT coalesce(max(position), 0) + 1 FROM bench_row WHERE bench = ?), ?, ?, ?, ?)`,
  ).run(bench, key, bench, need.item, need.name, desk.person.id, desk.now);
  sql(db, "INSERT INTO bench_part (need, supplier) VALUES (?, ?)").run(key, supplier);
}
