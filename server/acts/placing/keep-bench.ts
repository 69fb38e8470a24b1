import { z } from "zod";
import type { BenchId, StoreId, SupplierId } from "../../../core/ids";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, OrderIdField, text } from "../fields";

/** Gives a bench another name. */
export function renameBench(desk: Desk, raw: unknown): Done<{ bench: BenchId }> {
  const input = checked(z.object({ bench: Id, name: text(60, 1, "A bench needs a name.") }), raw);
  if (!input.ok) return input;
  const { bench, name } = input.value;
  return once(desk, "write orders", (tx) => {
    if (sql(tx.db, "SELECT 1 FROM bench WHERE name = ? AND id <> ? AND cleared IS NULL").get(name, bench))
      return refuse("name", "Another bench has this name.");
    const before = sql<{ name: string }>(tx.db, "SELECT name FROM bench WHERE id = ? AND cleared IS NULL").get(bench);
    if (!before) return refuse("", "This bench was put away meanwhile.");
    sql(tx.db, "UPDATE bench SET name = ?, version = version + 1 WHERE id = ?").run(name, bench);
    tx.record("bench.renamed", `bench ${bench}`, { before: before.name, after: name });
    return done({ bench });
  });
}

/** Says how many days of use plans may buy ahead, to reach a break, an order minimum or free freight. */
export function keepAhead(desk: Desk, raw: unknown): Done<{ days: number }> {
  const Days = z.coerce
    .number("Say how many days.")
    .int("Whole days.")
    .min(0, "At least 0 days: nothing is bought ahead.")
    .max(366, "At most a year of 366 days.");
  const input = checked(z.object({ bench: Id, days: Days }), raw);
  if (!input.ok) return input;
  const { bench, days } = input.value;
  return once(desk, "write orders", (tx) => {
    const before = sql<{ days: number }>(
      tx.db,
      "SELECT ahead_days AS days FROM bench WHERE id = ? AND cleared IS NULL",
    ).get(bench);
    if (!before) return refuse("", "This bench was put away meanwhile.");
    sql(tx.db, "UPDATE bench SET ahead_days = ?, version = version + 1 WHERE id = ?").run(days, bench);
    tx.record("bench.ahead-kept", `bench ${bench}`, { before: before.days, after: days });
    return done({ days });
  });
}

/** Puts a bench away; its needs stay in the pool. */
export function putAwayBench(desk: Desk, raw: unknown): Done<{ needs: number }> {
  const input = checked(z.object({ bench: Id }), raw);
  if (!input.ok) return input;
  const { bench } = input.value;
  return once(desk, "write orders", (tx) => {
    const needs = sql(tx.db, "DELETE FROM bench_row WHERE bench = ?").run(bench).changes;
    const { changes } = sql(
      tx.db,
      "UPDATE bench SET cleared = ?, version = version + 1 WHERE id = ? AND cleared IS NULL",
    ).run(desk.now, bench);
    if (changes === 0) return refuse("", "This bench was put away already.");
    tx.record("bench.put-away", `bench ${bench}`, { needs });
    return done({ needs });
  });
}

/** Says that lines for its supplier and store go onto a draft that stands already, or that they do not. */
export function joinDraft(desk: Desk, raw: unknown): Done<{ joined: boolean }> {
  const input = checked(z.object({ bench: Id, order: OrderIdField, join: z.boolean() }), raw);
  if (!input.ok) return input;
  const { bench, order, join } = input.value;
  return once(desk, "write orders", (tx) => {
    const draft = sql<{ supplier: SupplierId; store: StoreId; discount: number }>(
      tx.db,
      "SELECT supplier, store, discount FROM purchase_order WHERE id = ? AND stage = 'draft' AND kind IN ('one-off', 'call-off')",
    ).get(order);
    if (!draft) return refuse("", "This order is no draft any more, so nothing can join it.");
    if (draft.discount) return refuse("", "A draft with a discount on the whole order takes lines only by hand.");
    if (!sql(tx.db, "SELECT 1 FROM bench WHERE id = ? AND cleared IS NULL").get(bench))
      return refuse("", "This bench was put away meanwhile.");
    // One draft for each supplier and store.
    sql(
      tx.db,
      "DELETE FROM bench_join WHERE bench = ? AND purchase_order IN (SELECT id FROM purchase_order WHERE supplier = ? AND store = ?)",
    ).run(bench, draft.supplier, draft.store);
    if (join) sql(tx.db, "INSERT INTO bench_join (bench, purchase_order) VALUES (?, ?)").run(bench, order);
    sql(tx.db, "UPDATE bench SET version = version + 1 WHERE id = ?").run(bench);
    tx.record("bench.draft-joined", `bench ${bench}`, { order, join });
    return done({ joined: join });
  });
}
