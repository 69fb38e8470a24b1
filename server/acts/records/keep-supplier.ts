import { z } from "zod";
import type { SupplierId } from "../../../core/ids";
import { LANGUAGE_CODES } from "../../../core/orders/papers";
import { type Db, sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, Percent, TickBox, text, Whole } from "../fields";
import { acceptFile } from "../files/accept-file";
import { DeliveryFields } from "../orders/head-fields";
import { retotalUnplaced } from "../orders/price-order";

const there = (db: Db, supplier: SupplierId) => sql(db, "SELECT * FROM supplier WHERE id = ?").get(supplier);

const KeepRecord = z.object({
  supplier: Id,
  name: text(120, 2, "What are they called?"),
  address: text(300),
  returnAddress: text(300),
  payAddress: text(300),
  taxNumber: text(40),
  taxed: z.enum(["yes", "no"], "Say who accounts for the tax."),
  notes: text(4000),
  /** The language of papers to them; empty for the company's. */
  language: z.enum(["", ...LANGUAGE_CODES], "Papers are not written in this language."),
});

/** Who a supplier is: name, addresses, tax, and what we know of them. Papers that are out keep what they said. */
export function keepSupplier(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(KeepRecord, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const before = there(tx.db, v.supplier);
    if (!before) return refuse("", "There is no such supplier.");
    sql(
      tx.db,
      "UPDATE supplier SET name = ?, address = ?, return_address = ?, pay_address = ?, tax_number = ?, taxed = ?, notes = ?, language = ? WHERE id = ?",
    ).run(
      v.name,
      v.address,
      v.returnAddress,
      v.payAddress,
      v.taxNumber,
      v.taxed === "yes" ? 1 : 0,
      v.notes,
      v.language,
      v.supplier,
    );
    retotalUnplaced(tx.db, desk.day);
    tx.record("supplier.changed", `supplier ${v.supplier}`, { before, after: v });
    return done({ supplier: v.supplier });
  });
}

const KeepPay = z.object({
  supplier: Id,
  days: Whole(0, 365),
  from: z.enum(["invoice", "end of month"], "From the invoice or from the end of its month."),
  earlyPercent: Percent,
  earlyDays: Whole(0, 365),
  /** They send invoices, or agreed that we write them when their goods come. */
  selfBills: z.enum(["yes", "no"], "Say who writes the invoices.").default("no"),
  rule: DeliveryFields.shape.rule,
  place: DeliveryFields.shape.place,
  carrier: text(80),
});

/** How they are paid and how they ship: what every new order says, until it says otherwise for itself. */
export function keepPayAndShip(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(KeepPay, raw);
  if (!input.ok) return input;
  const v = input.value;
  if (v.rule && !v.place) return refuse("place", `${v.rule} is agreed with a place: say which.`);
  return once(desk, "keep sourcing", (tx) => {
    const before = there(tx.db, v.supplier);
    if (!before) return refuse("", "There is no such supplier.");
    sql(
      tx.db,
      "UPDATE supplier SET terms_days = ?, terms_from = ?, early_percent = ?, early_days = ?, self_bills = ?, delivery_terms = ?, delivery_place = ?, carrier = ? WHERE id = ?",
    ).run(
      v.days,
      v.from,
      v.earlyPercent,
      v.earlyDays,
      v.selfBills === "yes" ? 1 : 0,
      v.rule,
      v.place,
      v.carrier,
      v.supplier,
    );
    tx.record("supplier.pay-changed", `supplier ${v.supplier}`, { before, after: v });
    return done({ supplier: v.supplier });
  });
}

const KeepContact = z.object({
  supplier: Id,
  contact: Id.optional(),
  name: text(80),
  title: text(80),
  phone: text(40),
  mail: z.email("This is not an e-mail address.").max(200, "This address is too long."),
  forOrders: TickBox,
  forQuotes: TickBox,
  forInvoices: TickBox,
});

/** A person at a supplier, and which papers go to them. */
export function keepContact(desk: Desk, raw: unknown): Done<{ contact: number }> {
  const input = checked(KeepContact, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep sourcing", (tx) => {
    if (!there(tx.db, v.supplier)) return refuse("", "There is no such supplier.");
    const twin = sql<{ id: number }>(
      tx.db,
      "SELECT id FROM supplier_contact WHERE supplier = ? AND mail = ? COLLATE NOCASE",
    ).get(v.supplier, v.mail);
    if (twin && twin.id !== v.contact) return refuse("mail", "Somebody of theirs has this address already.");
    const values = [v.name, v.title, v.phone, v.mail, v.forOrders ? 1 : 0, v.forQuotes ? 1 : 0, v.forInvoices ? 1 : 0];
    const contact = v.contact
      ? v.contact
      : Number(
          sql(
            tx.db,
            "INSERT INTO supplier_contact (name, title, phone, mail, for_orders, for_quotes, for_invoices, supplier) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
          ).run(...values, v.supplier).lastInsertRowid,
        );
    if (v.contact)
      sql(
        tx.db,
        "UPDATE supplier_contact SET name = ?, title = ?, phone = ?, mail = ?, for_orders = ?, for_quotes = ?, for_invoices = ? WHERE id = ? AND supplier = ?",
      ).run(...values, v.contact, v.supplier);
    tx.record("supplier.contact-kept", `supplier ${v.supplier}`, { ...v, contact });
    return done({ contact });
  });
}

/** Takes a person off a supplier's record; one whom an order names stays, and gets nothing any more. */
export function dropContact(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(z.object({ supplier: Id, contact: Id }), raw);
  if (!input.ok) return input;
  const { supplier, contact } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const before = sql(tx.db, "SELECT * FROM supplier_contact WHERE id = ? AND supplier = ?").get(contact, supplier);
    if (!before) return refuse("", "This person is gone already.");
    if (sql(tx.db, "SELECT 1 FROM purchase_order WHERE contact = ? LIMIT 1").get(contact))
      sql(tx.db, "UPDATE supplier_contact SET for_orders = 0, for_quotes = 0, for_invoices = 0 WHERE id = ?").run(
        contact,
      );
    else sql(tx.db, "DELETE FROM supplier_contact WHERE id = ?").run(contact);
    tx.record("supplier.contact-dropped", `supplier ${supplier}`, before);
    return done({ supplier });
  });
}

/** The texts that stand on every order to a supplier, beside those that stand on all. */
export function keepSupplierText(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(z.object({ supplier: Id, text: text(2000) }), raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep sourcing", (tx) => {
    if (!there(tx.db, v.supplier)) return refuse("", "There is no such supplier.");
    sql(tx.db, "DELETE FROM standing_text WHERE supplier = ? AND kind IS NULL").run(v.supplier);
    if (v.text) sql(tx.db, "INSERT INTO standing_text (supplier, text) VALUES (?, ?)").run(v.supplier, v.text);
    tx.record("supplier.text-kept", `supplier ${v.supplier}`, v);
    return done({ supplier: v.supplier });
  });
}

/** Keeps a file with a supplier: an agreement, a certificate, a catalogue. */
export function attachToSupplier(
  desk: Desk,
  supplier: SupplierId,
  name: string,
  bytes: Uint8Array,
): Done<{ file: number }> {
  const accepted = acceptFile(name, bytes);
  if (!accepted.ok) return accepted;
  const file = accepted.value;
  return once(desk, "keep sourcing", (tx) => {
    if (!there(tx.db, supplier)) return refuse("", "There is no such supplier.");
    const { n } = sql<{ n: number }>(tx.db, "SELECT count(*) AS n FROM supplier_file WHERE supplier = ?").get(
      supplier,
    )!;
    if (n >= 50) return refuse("file", "At most 50 files with one supplier.");
    const id = Number(
      sql(tx.db, "INSERT INTO supplier_file (supplier, name, type, bytes, person, at) VALUES (?, ?, ?, ?, ?, ?)").run(
        supplier,
        file.name,
        file.type,
        file.bytes,
        desk.person.id,
        desk.now,
      ).lastInsertRowid,
    );
    tx.record("supplier.file-attached", `supplier ${supplier}`, { name: file.name, size: bytes.length });
    return done({ file: id });
  });
}

export function detachFromSupplier(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(z.object({ supplier: Id, attachment: Id }), raw);
  if (!input.ok) return input;
  const { supplier, attachment } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const row = sql<{ name: string }>(
      tx.db,
      "DELETE FROM supplier_file WHERE id = ? AND supplier = ? RETURNING name",
    ).get(attachment, supplier);
    if (!row) return refuse("", "This file is gone already.");
    tx.record("supplier.file-taken-off", `supplier ${supplier}`, row);
    return done({ supplier });
  });
}
