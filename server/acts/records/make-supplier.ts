import { z } from "zod";
import type { SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../../queries/company";
import { checked, type Desk, type Done, done, once, refuse, refuseAll } from "../desk";
import { code, Id, text } from "../fields";

const Currency = z.string("Choose a currency.").regex(/^[A-Z]{3}$/, "A currency has three letters, such as EUR.");

export const MakeSupplier = z.object({
  code: code("A supplier needs a code."),
  name: text(120, 2, "What are they called?"),
  address: text(300),
  currency: Currency,
  contact: text(80),
  /** Where orders go; a supplier without an address can be written to later, and nothing is placed with them before. */
  mail: z.union([z.literal(""), z.email("This is not an e-mail address.").max(200, "This address is too long.")]),
});

const unrated = (db: Db, desk: Desk, currency: string) =>
  rateOn(db, currency, theCompany(db).currency, desk.day) === null
    ? `No rate for ${currency} is known. An administrator loads rates under Files.`
    : null;

/** Makes a supplier; all else of the record has its usual value until it is said otherwise. */
export function makeSupplier(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(MakeSupplier, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const problems = [];
    if (sql(tx.db, "SELECT 1 FROM supplier WHERE code = ?").get(v.code))
      problems.push({ field: "code", says: "Another supplier has this code." });
    const no = unrated(tx.db, desk, v.currency);
    if (no) problems.push({ field: "currency", says: no });
    if (problems.length) return refuseAll(problems);
    const supplier = Number(
      sql(tx.db, "INSERT INTO supplier (code, name, address, currency) VALUES (?, ?, ?, ?)").run(
        v.code,
        v.name,
        v.address,
        v.currency,
      ).lastInsertRowid,
    );
    if (v.mail)
      sql(tx.db, "INSERT INTO supplier_contact (supplier, name, mail, for_quotes) VALUES (?, ?, ?, 1)").run(
        supplier,
        v.contact,
        v.mail,
      );
    tx.record("supplier.made", `supplier ${supplier}`, v);
    return done({ supplier });
  });
}

/** Another currency, as long as nothing that they ask is written in the one before. */
export function changeCurrency(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(z.object({ supplier: Id, currency: Currency }), raw);
  if (!input.ok) return input;
  const { supplier, currency } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const before = sql<{ currency: string; asks: number; prices: number }>(
      tx.db,
      `SELECT currency, order_minimum > 0 OR freight > 0 OR freight_free_from > 0 AS asks,
              (SELECT count(*) FROM price_break b JOIN sourcing c ON c.id = b.sourcing WHERE c.supplier = supplier.id) AS prices
       FROM supplier WHERE id = ?`,
    ).get(supplier);
    if (!before) return refuse("", "There is no such supplier.");
    if (before.currency === currency) return refuse("currency", `They are paid in ${currency} already.`);
    const no = unrated(tx.db, desk, currency);
    if (no) return refuse("currency", no);
    if (before.prices || before.asks)
      return refuse(
        "currency",
        `${before.prices ? "Their prices are" : "What they ask of an order is"} in ${before.currency}. Take that off first, so that no figure changes what it means.`,
      );
    sql(tx.db, "UPDATE supplier SET currency = ? WHERE id = ?").run(currency, supplier);
    tx.record("supplier.currency-changed", `supplier ${supplier}`, { before: before.currency, currency });
    return done({ supplier });
  });
}
