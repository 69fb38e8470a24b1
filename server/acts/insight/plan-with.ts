import { z } from "zod";
import type { SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import type { PlanFor } from "../../queries/needs/need";
import { groundOf, planPair } from "../../queries/needs/plan";
import type { Pair } from "../../queries/needs/positions";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";
import { tried } from "../tried";

export const PlanWith = z.object({
  supplier: Id.transform((id) => id as SupplierId), // checked to be one by the act
  days: z.coerce.number().int().min(0, "No days below nought.").max(365, "At most 365 days."),
});

const change = (db: Db, supplier: SupplierId, days: number): number =>
  sql(db, "UPDATE sourcing SET lead_days = @days WHERE supplier = @supplier AND active = 1 AND lead_days <> @days").run(
    {
      supplier,
      days,
    },
  ).changes;

/** Plans with other days from order to arrival for all that a supplier sells us, such as those that were measured. */
export function planWith(desk: Desk, raw: unknown): Done<{ items: number }> {
  const input = checked(PlanWith, raw);
  if (!input.ok) return input;
  const { supplier, days } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    if (!sql(tx.db, "SELECT 1 FROM supplier WHERE id = ?").get(supplier))
      return refuse("", "There is no such supplier.");
    const items = change(tx.db, supplier, days);
    if (items === 0) return refuse("days", "All of their items are planned with these days already.");
    tx.record("supplier.planned", `supplier ${supplier}`, { days, items });
    return done({ items });
  });
}

/** What planning with other days would change: items, and needs of theirs that would appear, go, or have to be ordered on another day. */
export interface PlannedOtherwise {
  days: number;
  items: number;
  appear: number;
  go: number;
  moved: number;
}
/** So many shelves are tried. */
const MOST_PAIRS = 500;

/** The same without doing it: every shelf of what they sell us is planned as it is, and with other days. */
export function tryPlanWith(db: Db, supplier: SupplierId, days: number, plan: PlanFor): PlannedOtherwise {
  const pairs = sql<Pair>(
    db,
    `SELECT p.item, p.store FROM item_store p
     WHERE p.item IN (SELECT item FROM sourcing WHERE supplier = @supplier AND active = 1 AND lead_days <> @days) ORDER BY p.item, p.store LIMIT ${MOST_PAIRS}`,
  ).all({ supplier, days });
  const needs = () => {
    const g = groundOf(db, plan, false);
    return pairs.map((pair) => planPair(g, pair));
  };
  const before = needs();
  const { items, after } = tried(db, () => ({ items: change(db, supplier, days), after: needs() }));
  const both = before.map((b, i) => ({ b, a: after[i] ?? null }));
  return {
    days,
    items,
    appear: both.filter(({ b, a }) => !b && a).length,
    go: both.filter(({ b, a }) => b && !a).length,
    moved: both.filter(({ b, a }) => b && a && b.orderBy !== a.orderBy).length,
  };
}
