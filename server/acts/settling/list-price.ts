import { z } from "zod";
import { addDays } from "../../../core/calendar/day";
import { showDay } from "../../../core/numbers/format";
import { priceText } from "../../../core/numbers/money";
import { ONE } from "../../../core/numbers/quantity";
import { sql } from "../../db/open";
import { readInvoice } from "../../queries/settling/invoices";
import { listedPriceOf } from "../../queries/settling/listed";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";

export const TakePrice = z.object({ invoice: Id, position: z.coerce.number().int().positive() });

/**
 * Takes the price of an invoice's line into the supplier's price list, from the day of the invoice: the break that held for
 * as much ends the day before (domain-goods §14).
 */
export function takePriceIntoList(desk: Desk, raw: unknown): Done<{ from: string }> {
  const input = checked(TakePrice, raw);
  if (!input.ok) return input;
  const { invoice, position } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const sheet = readInvoice(tx.db, invoice);
    const line = sheet?.lines.find((l) => l.position === position);
    if (!sheet || !line?.orderLine) return refuse("", "There is no such line of an order.");
    const { day } = sheet.head;
    const listed = listedPriceOf(tx.db, line.orderLine, line.quantity, day);
    if (!listed) return refuse("", "No price list of this supplier has this line, in this pack.");
    const old = listed.inForce;
    if (old?.price === line.price) return refuse("", "The price list says so already.");
    if (old && old.validFrom === day)
      sql(tx.db, "UPDATE price_break SET price = ? WHERE id = ?").run(line.price, old.id);
    else {
      if (old) sql(tx.db, "UPDATE price_break SET valid_to = ? WHERE id = ?").run(addDays(day, -1), old.id);
      sql(
        tx.db,
        "INSERT INTO price_break (sourcing, from_quantity, price, valid_from, valid_to) VALUES (?, ?, ?, ?, ?)",
      ).run(listed.sourcing, old?.from ?? ONE, line.price, day, old?.validTo ?? null);
    }
    tx.record("price.taken-from-invoice", `sourcing ${listed.sourcing}`, {
      invoice,
      position,
      before: old ? priceText(old.price) : null,
      price: priceText(line.price),
      from: day,
    });
    return done({ from: showDay(day, desk.day) });
  });
}
