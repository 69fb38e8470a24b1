import type { DecimalMark } from "../../../core/numbers/decimal";
import { COLUMNS, FILE_KINDS, type FileKind } from "../../../exchange/csv/kinds";
import { type CheckedRow, checkTable, type Fault, readTable } from "../../../exchange/csv/table";
import { type Db, sql } from "../../db/open";
import { type Desk, type Done, done, once, refuse } from "../desk";

export const isFileKind = (text: string): text is FileKind => (FILE_KINDS as readonly string[]).includes(text);

export type Loaded = { rows: number; added: number; changed: number };
export type LoadAnswer = Done<Loaded> | { ok: false; problems: { field: string; says: string }[]; faults: Fault[] };

/**
 * Loads a file entirely or not at all. First everything is checked that the file says about itself, then everything it
 * says about what is already here; every fault is listed with its line, its column and what would be right.
 */
export function loadFile(desk: Desk, kind: FileKind, bytes: Uint8Array, mark: DecimalMark): LoadAnswer {
  const read = readTable(bytes);
  if (!read.ok) return faulty(read.faults);
  const checked = checkTable(read.table, COLUMNS[kind], mark);
  if (!checked.ok) return faulty(checked.faults);
  if (checked.rows.length === 0 && checked.faults.length === 0) {
    return faulty([{ line: 1, column: "", found: "", says: "There is no row below the first line." }]);
  }
  let found: Fault[] = [];
  // Rows that are whole in themselves are tried even where others are not, so that one answer names every fault.
  const answer = once(desk, "load files", (tx): Done<Loaded> => {
    const loader = new Loader(tx.db, desk);
    LOADERS[kind](loader, checked.rows);
    found = [...checked.faults, ...loader.faults].sort((a, b) => a.line - b.line);
    if (found.length) return refuse("", "faulty");
    const loaded = { rows: checked.rows.length, added: loader.added, changed: loader.changed };
    tx.record("file.loaded", kind, loaded);
    return done(loaded);
  });
  return found.length ? faulty(found) : answer;
}

const faulty = (faults: Fault[]): LoadAnswer => ({
  ok: false,
  problems: [
    {
      field: "file",
      says: `Nothing was loaded: ${faults.length === 1 ? "1 fault" : `${faults.length} faults`} in the file.`,
    },
  ],
  faults,
});

/** What the loaders share: finding by code, and gathering faults. */
class Loader {
  faults: Fault[] = [];
  added = 0;
  changed = 0;
  private seen = new Set<string>();
  private ids = new Map<string, number | null>();
  constructor(
    readonly db: Db,
    readonly desk: Desk,
  ) {}

  fault(row: CheckedRow, column: string, says: string): null {
    this.faults.push({ line: row.line, column, found: String(row.values[column] ?? ""), says });
    return null;
  }

  /** A row whose key stands in the file twice says two things about one record. */
  twice(row: CheckedRow, ...columns: string[]): boolean {
    const key = columns.map((c) => String(row.values[c]).toLowerCase()).join("\u0000");
    if (this.seen.has(key)) {
      this.fault(row, columns[0]!, "This stands in the file twice.");
      return true;
    }
    this.seen.add(key);
    return false;
  }

  find(row: CheckedRow, column: string, table: "item" | "supplier" | "store", help: string): number | null {
    const code = String(row.values[column]);
    const key = `${table}/${code.toLowerCase()}`;
    let id = this.ids.get(key);
    if (id === undefined)
      this.ids.set(
        key,
        (id = sql<{ id: number }>(this.db, `SELECT id FROM ${table} WHERE code = ?`).get(code)?.id ?? null),
      );
    return id ?? this.fault(row, column, help);
  }

  unit(row: CheckedRow, column: string): string | null {
    const text = String(row.values[column]);
    const unit = sql<{ code: string }>(this.db, "SELECT code FROM unit WHERE code = ? OR name = ?").get(
      text.toUpperCase(),
      text,
    );
    if (unit) return unit.code;
    const known = sql<{ name: string }>(this.db, "SELECT name FROM unit ORDER BY name")
      .all()
      .map((u) => u.name)
      .join(", ");
    return this.fault(row, column, `No such unit. We know ${known}.`);
  }

  /** Adds or changes one record, and counts which it was. */
  put(there: boolean, insert: string, update: string, values: Record<string, unknown>): void {
    sql(this.db, there ? update : insert).run(values);
    if (there) this.changed++;
    else this.added++;
  }
}

const NO_ITEM = "There is no item of this code. Load the items first.";
const NO_SUPPLIER = "There is no supplier of this code. Load the suppliers first.";
const NO_STORE = "There is no store of this code. Load the stores first.";

const LOADERS: Record<FileKind, (l: Loader, rows: CheckedRow[]) => void> = {
  stores(l, rows) {
    for (const row of rows) {
      if (l.twice(row, "code")) continue;
      const there = sql(l.db, "SELECT 1 FROM store WHERE code = ?").get(row.values.code) !== undefined;
      l.put(
        there,
        "INSERT INTO store (code, name, address, receives) VALUES (@code, @name, @address, @receives)",
        "UPDATE store SET name = @name, address = @address, receives = @receives WHERE code = @code",
        row.values,
      );
    }
  },
  rates(l, rows) {
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
  },
  items(l, rows) {
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
      const holder = row.values.gtin
        ? sql<{ code: string }>(l.db, "SELECT code FROM item WHERE gtin = ?").get(row.values.gtin)
        : undefined;
      if (holder && holder.code.toLowerCase() !== String(row.values.code).toLowerCase()) {
        l.fault(row, "gtin", `This GTIN belongs to ${holder.code}.`);
        continue;
      }
      l.put(
        before !== undefined,
        `INSERT INTO item (code, name, kind, category, unit, gtin, tax_rate, reference_cost)
         VALUES (@code, @name, @kind, @category, @unitCode, @gtin, @tax, @reference_cost)`,
        `UPDATE item SET name = @name, kind = @kind, category = @category, unit = @unitCode, gtin = @gtin, tax_rate = @tax,
         reference_cost = @reference_cost WHERE code = @code`,
        { ...row.values, unitCode: unit },
      );
    }
  },
  suppliers(l, rows) {
    for (const row of rows) {
      if (l.twice(row, "code")) continue;
      const before = sql<{ id: number; currency: string }>(
        l.db,
        "SELECT id, currency FROM supplier WHERE code = ?",
      ).get(row.values.code);
      l.put(
        before !== undefined,
        `INSERT INTO supplier (code, name, address, currency, terms_days, lead_kind, delivers, taxed)
         VALUES (@code, @name, @address, @currency, @terms_days, @lead_days_are, @delivers, @taxed)`,
        `UPDATE supplier SET name = @name, address = @address, currency = @currency, terms_days = @terms_days, lead_kind = @lead_days_are,
         delivers = @delivers, taxed = @taxed WHERE code = @code`,
        { ...row.values, order_mails: null },
      );
      const { id } = sql<{ id: number }>(l.db, "SELECT id FROM supplier WHERE code = ?").get(row.values.code)!;
      sql(l.db, "DELETE FROM supplier_contact WHERE supplier = ? AND for_orders = 1").run(id);
      for (const mail of row.values.order_mails as string[]) {
        sql(l.db, "INSERT INTO supplier_contact (supplier, name, mail) VALUES (?, ?, ?) ON CONFLICT DO NOTHING").run(
          id,
          row.values.contact,
          mail,
        );
      }
    }
  },
  sourcing(l, rows) {
    for (const row of rows) {
      const item = l.find(row, "item", "item", NO_ITEM);
      const supplier = l.find(row, "supplier", "supplier", NO_SUPPLIER);
      const unit = l.unit(row, "unit");
      if (l.twice(row, "item", "supplier") || item === null || supplier === null || unit === null) continue;
      const there =
        sql(l.db, "SELECT 1 FROM sourcing WHERE item = ? AND supplier = ?").get(item, supplier) !== undefined;
      l.put(
        there,
        `INSERT INTO sourcing (item, supplier, their_code, their_name, unit, factor, minimum, multiple, broken_packs, lead_days, standing_discount, rank)
         VALUES (@itemId, @supplierId, @their_code, @their_name, @unitCode, @factor, @minimum, @multiple, @broken_packs, @lead_days, @discount, @rank)`,
        `UPDATE sourcing SET their_code = @their_code, their_name = @their_name, unit = @unitCode, factor = @factor, minimum = @minimum, multiple = @multiple,
         broken_packs = @broken_packs, lead_days = @lead_days, standing_discount = @discount, rank = @rank WHERE item = @itemId AND supplier = @supplierId`,
        { ...row.values, itemId: item, supplierId: supplier, unitCode: unit },
      );
    }
  },
  prices(l, rows) {
    for (const row of rows) {
      const item = l.find(row, "item", "item", NO_ITEM);
      const supplier = l.find(row, "supplier", "supplier", NO_SUPPLIER);
      if (l.twice(row, "item", "supplier", "from", "valid_from") || item === null || supplier === null) continue;
      const { from, price, valid_from, valid_to } = row.values as {
        from: number;
        price: number;
        valid_from: string | null;
        valid_to: string | null;
      };
      if (valid_from && valid_to && valid_to < valid_from) {
        l.fault(row, "valid_to", "The last day lies before the first.");
        continue;
      }
      const record = sql<{ id: number }>(l.db, "SELECT id FROM sourcing WHERE item = ? AND supplier = ?").get(
        item,
        supplier,
      );
      if (!record) {
        l.fault(row, "item", "This supplier is not set up for this item. Load the sourcing records first.");
        continue;
      }
      const key = { sourcing: record.id, from, valid_from };
      const there =
        sql(
          l.db,
          "SELECT 1 FROM price_break WHERE sourcing = @sourcing AND from_quantity = @from AND valid_from IS @valid_from",
        ).get(key) !== undefined;
      l.put(
        there,
        "INSERT INTO price_break (sourcing, from_quantity, price, valid_from, valid_to) VALUES (@sourcing, @from, @price, @valid_from, @valid_to)",
        "UPDATE price_break SET price = @price, valid_to = @valid_to WHERE sourcing = @sourcing AND from_quantity = @from AND valid_from IS @valid_from",
        { ...key, price, valid_to },
      );
    }
  },
  stock(l, rows) {
    for (const row of rows) {
      const item = l.find(row, "item", "item", NO_ITEM);
      const store = l.find(row, "store", "store", NO_STORE);
      if (l.twice(row, "item", "store") || item === null || store === null) continue;
      const { kind } = sql<{ kind: string }>(l.db, "SELECT kind FROM item WHERE id = ?").get(item)!;
      if (kind !== "stocked") {
        l.fault(row, "item", `This item is of the kind “${kind}” and is not kept in stock.`);
        continue;
      }
      const v = row.values as { on_hand: number; policy: string; lot: number };
      if ((v.policy === "larger of" || v.policy === "fixed lot") && v.lot === 0) {
        l.fault(row, "lot", `The policy “${v.policy}” needs a lot above zero.`);
        continue;
      }
      const before = sql<{ on_hand: number }>(l.db, "SELECT on_hand FROM item_store WHERE item = ? AND store = ?").get(
        item,
        store,
      );
      l.put(
        before !== undefined,
        `INSERT INTO item_store (item, store, policy, reorder_point, lot, maximum, review_days, bin, on_hand)
         VALUES (@itemId, @storeId, @policy, @reorder_point, @lot, @maximum, @review_days, @bin, @on_hand)`,
        `UPDATE item_store SET policy = @policy, reorder_point = @reorder_point, lot = @lot, maximum = @maximum, review_days = @review_days, bin = @bin,
         on_hand = @on_hand WHERE item = @itemId AND store = @storeId`,
        { ...row.values, itemId: item, storeId: store },
      );
      const moved = v.on_hand - (before?.on_hand ?? 0);
      if (moved !== 0) {
        sql(
          l.db,
          "INSERT INTO movement (item, store, day, kind, quantity, note, person, at) VALUES (?, ?, ?, ?, ?, 'from a file', ?, ?)",
        ).run(item, store, l.desk.day, before ? "count" : "opening", moved, l.desk.person.id, l.desk.now);
      }
    }
  },
  jobs(l, rows) {
    for (const row of rows) {
      const item = l.find(row, "item", "item", NO_ITEM);
      const store = l.find(row, "store", "store", NO_STORE);
      if (l.twice(row, "job", "item", "store", "due") || item === null || store === null) continue;
      const v = row.values as { job: string; name: string; vessel: string; quantity: number; issued: number };
      if (v.issued > v.quantity) {
        l.fault(row, "issued", "More was issued than the job asks for.");
        continue;
      }
      sql(
        l.db,
        `INSERT INTO job (code, name, vessel) VALUES (@job, @name, @vessel)
         ON CONFLICT (code) DO UPDATE SET name = iif(@name = '', name, @name), vessel = iif(@vessel = '', vessel, @vessel)`,
      ).run(row.values);
      const { id } = sql<{ id: number }>(l.db, "SELECT id FROM job WHERE code = ?").get(v.job)!;
      const key = { ...row.values, jobId: id, itemId: item, storeId: store };
      const there =
        sql(
          l.db,
          "SELECT 1 FROM job_demand WHERE job = @jobId AND item = @itemId AND store = @storeId AND due = @due",
        ).get(key) !== undefined;
      l.put(
        there,
        "INSERT INTO job_demand (job, item, store, due, quantity, issued) VALUES (@jobId, @itemId, @storeId, @due, @quantity, @issued)",
        "UPDATE job_demand SET quantity = @quantity, issued = @issued WHERE job = @jobId AND item = @itemId AND store = @storeId AND due = @due",
        key,
      );
    }
  },
};
