import type { PersonId, SupplierId } from "../../../../core/ids";
import { Big } from "../../../../core/numbers/decimal";
import { exponent, PRICE_PLACES, toMinor } from "../../../../core/numbers/money";
import type { RowOf, RowsOf } from "../../../../exchange/csv/kinds";
import type { CheckedRow } from "../../../../exchange/csv/table";
import { sql } from "../../../db/open";
import { isRegion } from "../../../queries/calendars";
import { theCompany } from "../../../queries/company";
import { alike, type Loader, NO_ACCOUNT } from "../loader";

/** An empty region keeps no holidays; any other must be one whose holidays we know. */
function regionIn(l: Loader, row: CheckedRow<{ region: string }>): boolean {
  const region = row.values.region.toUpperCase();
  row.values.region = region;
  if (region === "" || isRegion(region)) return true;
  l.fault(row, "region", "We know no holidays of such a region. Write a country like NO, or a part like GB-SCT.");
  return false;
}

const code = (row: CheckedRow<{ code: string }>) => ({ code: row.values.code });

export function stores(l: Loader, rows: RowsOf<"stores">): void {
  for (const row of l.each(rows)) {
    if (l.twice(row, "code") || !regionIn(l, row)) continue;
    l.keep(row, "store", code(row), alike(row.values, "name", "address", "receives", "region"));
  }
}

export function rates(l: Loader, rows: RowsOf<"rates">): void {
  for (const row of l.each(rows)) {
    if (l.twice(row, "currency", "day")) continue;
    const { currency, day, rate } = row.values;
    if (rate === 0) l.fault(row, "rate", "A rate is above zero.");
    else l.keep(row, "rate", { currency, day }, alike(row.values, "rate"));
  }
}

export function accounts(l: Loader, rows: RowsOf<"accounts">): void {
  for (const row of l.each(rows)) {
    if (!l.twice(row, "code")) l.keep(row, "account", code(row), alike(row.values, "name"));
  }
}

export function budgets(l: Loader, rows: RowsOf<"budgets">): void {
  const { currency } = theCompany(l.db);
  for (const row of l.each(rows)) {
    if (l.twice(row, "code", "starts")) continue;
    const v = row.values;
    if (v.ends < v.starts) {
      l.fault(row, "ends", "The last day lies before the first.");
      continue;
    }
    const across = sql<{ starts: string }>(
      l.db,
      "SELECT starts FROM budget WHERE code = ? AND starts <> ? AND starts <= ? AND ends >= ?",
    ).get(v.code, v.starts, v.ends, v.starts);
    if (across) {
      l.fault(row, "starts", `This lies across the period of the same code that starts on ${across.starts}.`);
      continue;
    }
    l.keep(
      row,
      "budget",
      { code: v.code, starts: v.starts },
      { ...alike(row.values, "name", "ends"), amount: ["amount", toMinor(new Big(v.amount).div(1_000_000), currency)] },
    );
  }
}

export function items(l: Loader, rows: RowsOf<"items">): void {
  for (const row of l.each(rows)) {
    const unit = l.unit(row, "unit");
    if (l.twice(row, "code") || unit === null) continue;
    const before = sql<{ unit: string; kind: RowOf<"items">["kind"]; used: number; kept: number }>(
      l.db,
      `SELECT unit, kind, EXISTS (SELECT 1 FROM movement m WHERE m.item = item.id) AS used,
              EXISTS (SELECT 1 FROM item_store s WHERE s.item = item.id) AS kept FROM item WHERE code = ?`,
    ).get(row.values.code);
    if (before?.used && before.unit !== unit) {
      l.fault(row, "unit", "The stock unit cannot change: goods were moved in the old one.");
      continue;
    }
    if (before?.kept && l.holds("kind", row.values.kind, before.kind) !== "stocked") {
      l.fault(row, "kind", "A store keeps this item, so it stays stocked.");
      continue;
    }
    if (row.values.account !== null && l.find(row, "account", "account", NO_ACCOUNT) === null) continue;
    const holder = row.values.gtin
      ? sql<{ code: string }>(l.db, "SELECT code FROM item WHERE gtin = ?").get(row.values.gtin)
      : undefined;
    if (holder && holder.code.toLowerCase() !== String(row.values.code).toLowerCase()) {
      l.fault(row, "gtin", `This GTIN belongs to ${holder.code}.`);
      continue;
    }
    l.keep(row, "item", code(row), {
      ...alike(
        row.values,
        "name",
        "kind",
        "category",
        "gtin",
        "reference_cost",
        "account",
        "by_lot",
        "by_serial",
        "by_weight",
        "shelf_days",
        "least_days",
        "weight",
      ),
      unit: ["unit", unit],
      tax_rate: ["tax", row.values.tax],
    });
  }
}

const ASKED = ["order_minimum", "freight", "freight_free_from"] as const;

export function suppliers(l: Loader, rows: RowsOf<"suppliers">): void {
  for (const row of l.each(rows)) {
    if (l.twice(row, "code") || !regionIn(l, row)) continue;
    const buyer = row.values.buyer
      ? sql<{ id: PersonId }>(
          l.db,
          "SELECT p.id FROM person p JOIN person_role r ON r.person = p.id AND r.role IN ('buyer', 'purchasing lead') WHERE p.login = ? AND p.active = 1",
        ).get(row.values.buyer)?.id
      : null;
    if (buyer === undefined) {
      l.fault(row, "buyer", "There is no buyer who signs in by this name.");
      continue;
    }
    const currency = row.values.currency;
    const minor = (column: (typeof ASKED)[number]) => {
      const millionths = row.values[column];
      if (millionths === null) return null;
      const step = 10 ** (PRICE_PLACES - exponent(currency));
      if (millionths % step !== 0) l.fault(row, column, `${currency} has no such small part.`);
      return Math.trunc(millionths / step);
    };
    const known = sql<{ currency: string } & Record<(typeof ASKED)[number], number | null>>(
      l.db,
      "SELECT currency, order_minimum, freight, freight_free_from FROM supplier WHERE code = ?",
    ).get(row.values.code);
    const stays = ASKED.filter((c) => !l.given.has(c) && known?.[c]);
    if (known && known.currency !== currency && stays.length > 0) {
      l.fault(row, "currency", `Their ${stays.join(", ")} stood in ${known.currency}: say them in ${currency}, too.`);
      continue;
    }
    l.keep(row, "supplier", code(row), {
      ...alike(row.values, "name", "address", "currency", "terms_days", "delivers", "taxed", "region", "cut_off"),
      lead_kind: ["lead_days_are", row.values.lead_days_are],
      buyer: ["buyer", buyer],
      order_minimum: ["order_minimum", minor("order_minimum")],
      freight: ["freight", minor("freight")],
      freight_free_from: ["freight_free_from", minor("freight_free_from") || null],
    });
    keepContacts(l, row);
  }
}

interface Contact {
  name: string;
  mail: string;
}

/** Who gets a supplier's orders. Without the column of addresses those who get them stay, under the names that are given. */
function keepContacts(l: Loader, row: CheckedRow<RowOf<"suppliers">>): void {
  if (!l.given.has("order_mails") && !l.given.has("contact")) return;
  const { id } = sql<{ id: SupplierId }>(l.db, "SELECT id FROM supplier WHERE code = ?").get(row.values.code)!;
  const forOrders = sql<Contact>(
    l.db,
    "SELECT name, mail FROM supplier_contact WHERE supplier = ? AND for_orders = 1 ORDER BY id",
  );
  const written = () =>
    forOrders
      .all(id)
      .map((c) => `${c.name} <${c.mail}>`)
      .join("; ");
  const before = written();
  const mails = l.given.has("order_mails") ? row.values.order_mails : forOrders.all(id).map((c) => c.mail);
  const names = row.values.contact.split(";").map((n) => n.trim());
  // A name for each address, in their order; one name alone is not written over the names of several.
  const each = l.given.has("contact") && names.length === mails.length;
  const dropped = sql(
    l.db,
    "UPDATE supplier_contact SET for_orders = 0 WHERE supplier = ? AND for_orders = 1 AND mail NOT IN (SELECT value FROM json_each(?))",
  );
  dropped.run(id, JSON.stringify(mails));
  for (const [i, mail] of mails.entries()) {
    sql(
      l.db,
      `INSERT INTO supplier_contact (supplier, name, mail) VALUES (@id, @name, @mail)
       ON CONFLICT (supplier, mail) DO UPDATE SET for_orders = 1, name = iif(@each, excluded.name, name)
       WHERE for_orders = 0 OR (@each AND name <> excluded.name)`,
    ).run({ id, name: (each ? names[i] : names[0]) ?? "", mail, each: each ? 1 : 0 });
  }
  const after = written();
  if (after !== before) l.differs(row, "order_mails", before, after);
}
