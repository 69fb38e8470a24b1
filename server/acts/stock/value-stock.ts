import type { ItemId, StoreId } from "../../../core/ids";
import type { UnitPrice } from "../../../core/numbers/money";
import { stockPostings } from "../../../core/stock/posting";
import { valueFound } from "../../../core/stock/value";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { type Doing, openEntry, post } from "./post";
import { move } from "./stock";

/**
 * Stock of before the house kept values is worth its items' reference cost from now on: once, with one entry for all of
 * it, and for what its movements say already and no entry does. Returns how many places were valued; none where that was done already.
 */
export function valueStock(db: Db, by: Doing): number {
  return db
    .transaction(() => {
      if (!sql(db, "SELECT 1 FROM company WHERE valued IS NULL").get()) return 0;
      const { currency } = theCompany(db);
      const places = sql<{ item: ItemId; store: StoreId; quantity: number; reference: UnitPrice | null }>(
        db,
        `SELECT p.item, p.store, p.on_hand AS quantity, i.reference_cost AS reference FROM item_store p JOIN item i ON i.id = p.item
         WHERE p.on_hand > 0 AND p.value = 0 ORDER BY p.item, p.store`,
      ).all();
      const valued = places
        .map((p) => ({ ...p, value: valueFound({ quantity: 0, value: 0 }, p.quantity, p.reference, currency) }))
        .filter((p) => p.value > 0);
      const known = sql<{ value: number }>(
        db,
        `SELECT (SELECT coalesce(sum(value), 0) FROM item_store) - (SELECT coalesce(sum(minor), 0) FROM posting WHERE role = 'stock') AS value`,
      ).get()!.value;
      if (valued.length > 0 || known !== 0) {
        const entry = openEntry(db, by, "opening");
        for (const { item, store, value } of valued)
          move(
            db,
            by,
            { item, store, quantity: 0, kind: "opening", note: "worth its reference cost", entry },
            0,
            value,
          );
        const all = valued.reduce((a, p) => a + p.value, known);
        post(db, entry, stockPostings(all, "opening"));
        recordAudit(db, by.now, by.person?.id ?? null, "stock.valued", "stock", { places: valued.length, value: all });
      }
      sql(db, "UPDATE company SET valued = ?").run(by.now);
      return valued.length;
    })
    .immediate();
}
