import { Big } from "../../../../core/numbers/decimal";
import { exponent, PRICE_PLACES, toMinor } from "../../../../core/numbers/money";
import type { CheckedRow } from "../../../../exchange/csv/table";
import { sql } from "../../../db/open";
import { isRegion } from "../../../read/calendars";
import { theCompany } from "../../../read/company";
import { type Loader, NO_ACCOUNT } from "../loader";

/** An empty region keeps no holidays; any other must be one whose holidays we know. */
function regionIn(l: Loader, row: CheckedRow): boolean {
  const region = String(row.values.region).toUpperCase();
  row.values.region = region;
  if (region === "" || isRegion(region)) return true;
  l.fault(row, "region", "We know no holidays of such a region. Write a country like NO, or a part like GB-SCT.");
  return false;
}

export function stores(l: Loader, rows: CheckedRow[]): void {
  for (const row of rows) {
    if (l.twice(row, "code") || !regionIn(l, row)) continue;
    const there = sql(l.db, "SELECT 1 FROM store WHERE code = ?").get(row.values.code) !== undefined;
    l.put(
      there,
      "INSERT INTO store (code, name, address, receives, region) VALUES (@code, @name, @address, @receives, @region)",
      "UPDATE store SET name = @name, address = @address, receives = @receives, region = @region WHERE code = @code",
      row.values,
    );
  }
}

export function rates(l: Loader, rows: CheckedRow[]): void {
  for (const row of rows) {
    if (l.twice(row, "currency", "day")) continue;
    if (row.values.rate === 0) {
      l.fault(row, "rate", "A rate is above zero.");
      continue;
    }
    const there =
      sql(l.db, "SELECT 1 FROM rate WHERE currency = @currency AND day = @day").get(row.values) !== undefined;
    l.put(
      there,
      "INSERT INTO rate (currency, day, rate) VALUES (@currency, @day, @rate)",
      "UPDATE rate SET rate = @rate WHERE currency = @currency AND day = @day",
      row.values,
    );
  }
}

export function accounts(l: Loader, rows: CheckedRow[]): void {
  for (const row of rows) {
    if (l.twice(row, "code")) continue;
    const there = sql(l.db, "SELECT 1 FROM account WHERE code = ?").get(row.values.code) !== undefined;
    l.put(
      there,
      "INSERT INTO account (code, name) VALUES (@code, @name)",
      "UPDATE account SET name = @name WHERE code = @code",
      row.values,
    );
  }
}

export function budgets(l: Loader, rows: CheckedRow[]): void {
  const { currency } = theCompany(l.db);
  for (const row of rows) {
    if (l.twice(row, "code", "starts")) continue;
    const v = row.values as { code: string; starts: string; ends: string; amount: number };
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
    const there = sql(l.db, "SELECT 1 FROM budget WHERE code = ? AND starts = ?").get(v.code, v.starts) !== undefined;
    l.put(
      there,
      "INSERT INTO budget (code, name, starts, ends, amount) VALUES (@code, @name, @starts, @ends, @minor)",
      "UPDATE budget SET name = @name, ends = @ends, amount = @minor WHERE code = @code AND starts = @starts",
      { ...row.values, minor: toMinor(new Big(v.amount).div(1_000_000), currency) },
    );
  }
}

export function items(l: Loader, rows: CheckedRow[]): void {
  for (const row of rows) {
    const unit = l.unit(row, "unit");
    if (l.twice(row, "code") || unit === null) continue;
    const before = sql<{ unit: string; used: number }>(
      l.db,
      "SELECT unit, EXISTS (SELECT 1 FROM movement m WHERE m.item = item.id) AS used FROM item WHERE code = ?",
    ).get(row.values.code);
    if (before?.used && before.unit !== unit) {
      l.fault(row, "unit", "The stock unit cannot change: goods were moved in the old one.");
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
    l.put(
      before !== undefined,
      `INSERT INTO item (code, name, kind, category, unit, gtin, tax_rate, reference_cost, account, by_lot, weight)
       VALUES (@code, @name, @kind, @category, @unitCode, @gtin, @tax, @reference_cost, @account, @by_lot, @weight)`,
      `UPDATE item SET name = @name, kind = @kind, category = @category, unit = @unitCode, gtin = @gtin, tax_rate = @tax,
       reference_cost = @reference_cost, account = @account, by_lot = @by_lot, weight = @weight WHERE code = @code`,
      { ...row.values, unitCode: unit },
    );
  }
}

export function suppliers(l: Loader, rows: CheckedRow[]): void {
  for (const row of rows) {
    if (l.twice(row, "code") || !regionIn(l, row)) continue;
    const buyer = row.values.buyer
      ? sql<{ id: number }>(
          l.db,
          "SELECT p.id FROM person p JOIN person_role r ON r.person = p.id AND r.role IN ('buyer', 'purchasing lead') WHERE p.login = ? AND p.active = 1",
        ).get(row.values.buyer)?.id
      : null;
    if (buyer === undefined) {
      l.fault(row, "buyer", "There is no buyer who signs in by this name.");
      continue;
    }
    const minor = (column: string) => {
      const millionths = row.values[column] as number | null;
      if (millionths === null) return null;
      const step = 10 ** (PRICE_PLACES - exponent(row.values.currency as string));
      if (millionths % step !== 0) l.fault(row, column, `${row.values.currency} has no such small part.`);
      return Math.trunc(millionths / step);
    };
    const asked = {
      orderMinimum: minor("order_minimum"),
      freightMinor: minor("freight"),
      freeFrom: minor("freight_free_from") || null,
    };
    const before = sql<{ id: number; currency: string }>(l.db, "SELECT id, currency FROM supplier WHERE code = ?").get(
      row.values.code,
    );
    l.put(
      before !== undefined,
      `INSERT INTO supplier (code, name, address, currency, terms_days, lead_kind, delivers, taxed, region, cut_off, buyer, order_minimum, freight, freight_free_from)
       VALUES (@code, @name, @address, @currency, @terms_days, @lead_days_are, @delivers, @taxed, @region, @cut_off, @buyerId, @orderMinimum, @freightMinor, @freeFrom)`,
      `UPDATE supplier SET name = @name, address = @address, currency = @currency, terms_days = @terms_days, lead_kind = @lead_days_are,
       delivers = @delivers, taxed = @taxed, region = @region, cut_off = @cut_off, buyer = @buyerId,
       order_minimum = @orderMinimum, freight = @freightMinor, freight_free_from = @freeFrom WHERE code = @code`,
      { ...row.values, ...asked, order_mails: null, buyerId: buyer },
    );
    const { id } = sql<{ id: number }>(l.db, "SELECT id FROM supplier WHERE code = ?").get(row.values.code)!;
    sql(l.db, "UPDATE supplier_contact SET for_orders = 0 WHERE supplier = ?").run(id);
    const mails = row.values.order_mails as string[];
    const names = String(row.values.contact ?? "")
      .split(";")
      .map((n) => n.trim());
    // A name for each address, in their order; one name alone is not written over the names of several.
    const each = names.length === mails.length;
    for (const [i, mail] of mails.entries()) {
      sql(
        l.db,
        "INSERT INTO supplier_contact (supplier, name, mail) VALUES (@id, @name, @mail) ON CONFLICT (supplier, mail) DO UPDATE SET for_orders = 1, name = iif(@each, excluded.name, name)",
      ).run({ id, name: (each ? names[i] : names[0]) ?? "", mail, each: each ? 1 : 0 });
    }
  }
}
