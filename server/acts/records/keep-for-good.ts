import { sql } from "../../db/open";
import { languageTo } from "../../queries/papers/templates";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { orderFor, WhichOrder } from "../orders/order-for";

/**
 * What an order says otherwise than its supplier's record becomes the record: payment, delivery terms, carrier, and texts.
 * The order then follows the record again.
 */
export function keepForGood(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(WhichOrder, raw);
  if (!input.ok) return input;
  const { order, version } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "edit");
    if (!found.ok) return found;
    const head = found.value;
    if (!Object.values(head.own).some(Boolean)) return refuse("", "This order says nothing else than their record.");
    const before = sql(
      tx.db,
      "SELECT terms_days, terms_from, early_percent, early_days, delivery_terms, delivery_place, carrier FROM supplier WHERE id = ?",
    ).get(head.supplier);
    const { terms } = head;
    if (head.own.terms)
      sql(
        tx.db,
        "UPDATE supplier SET terms_days = ?, terms_from = ?, early_percent = ?, early_days = ? WHERE id = ?",
      ).run(terms.days, terms.from, terms.earlyPercent, terms.earlyDays, head.supplier);
    if (head.own.delivery)
      sql(tx.db, "UPDATE supplier SET delivery_terms = ?, delivery_place = ? WHERE id = ?").run(
        head.deliveryTerms,
        head.deliveryPlace,
        head.supplier,
      );
    if (head.own.carrier) sql(tx.db, "UPDATE supplier SET carrier = ? WHERE id = ?").run(head.carrier, head.supplier);
    // Texts for all suppliers stay as they are; what this order says becomes the supplier's own.
    if (head.own.texts) {
      sql(tx.db, "DELETE FROM standing_text WHERE supplier = ? AND (kind IS NULL OR kind = ?)").run(
        head.supplier,
        head.kind,
      );
      const general = sql<{ text: string }>(
        tx.db,
        "SELECT text FROM standing_text WHERE supplier IS NULL AND (kind IS NULL OR kind = ?) AND (language IS NULL OR language = ?)",
      )
        .all(head.kind, languageTo(tx.db, head.supplier))
        .reduce((left, t) => left.replace(t.text, ""), head.texts)
        .trim();
      if (general) sql(tx.db, "INSERT INTO standing_text (supplier, text) VALUES (?, ?)").run(head.supplier, general);
    }
    sql(
      tx.db,
      `UPDATE purchase_order SET terms_days = NULL, terms_from = NULL, early_percent = NULL, early_days = NULL, delivery_terms = NULL, delivery_place = NULL,
         carrier = NULL, texts = NULL, version = version + 1 WHERE id = ?`,
    ).run(order);
    tx.record("supplier.kept-for-good", `supplier ${head.supplier}`, { order, before, own: head.own });
    return done({ version: version + 1 });
  });
}
