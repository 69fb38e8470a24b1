import type { Day } from "../../../core/calendar/day";
import type { ItemId, SourcingId, SupplierId } from "../../../core/ids";
import type { UnitPrice } from "../../../core/numbers/money";
import type { PayTerms } from "../../../core/orders/terms";
import { type Db, sql } from "../../db/open";
import { type BlanketRow, readBlankets } from "../orders/blankets";
import { type OrderRow, orderRows } from "../orders/lists";
import { readSuppliers, type SupplierRow } from "./suppliers";

export interface SupplierContact {
  id: number;
  name: string;
  title: string;
  phone: string;
  mail: string;
  forOrders: boolean;
  forQuotes: boolean;
  forInvoices: boolean;
}

/** What they sell us, by their list. */
export interface SoldItem {
  item: ItemId;
  code: string;
  name: string;
  theirCode: string;
  unit: string;
  leadDays: number;
  preferred: boolean;
  breaks: { from: number; price: UnitPrice; validTo: Day | null }[];
}

export interface SupplierRecord extends SupplierRow {
  taxNumber: string;
  /** Of papers to them; empty for the company's. */
  language: string;
  taxed: boolean;
  notes: string;
  returnAddress: string;
  payAddress: string;
  /** We write their invoices when their goods come. */
  selfBills: boolean;
  terms: PayTerms;
  deliveryTerms: string;
  deliveryPlace: string;
  carrier: string;
  text: string;
  /** Where they answer what they have; the token itself is told to nobody. */
  stockService: { address: string; hasToken: boolean } | null;
  people: SupplierContact[];
  files: { id: number; name: string; size: number; by: string }[];
  openOrders: OrderRow[];
  agreements: BlanketRow[];
  sold: SoldItem[];
  /** What was last done with them: papers of the last months, the newest first. */
  dealings: { at: string; what: string; href: string; about: string }[];
  /** What was ordered over the last twelve months, and what is still to come; home currency, minor units. */
  year: { orders: number; ordered: number; open: number };
}

/** A supplier's record with all that its page shows. Null where there is none. */
export function readSupplier(db: Db, id: SupplierId, today: Day): SupplierRecord | null {
  const row = readSuppliers(db).find((s) => s.id === id);
  if (!row) return null;
  const more = sql<{
    taxNumber: string;
    language: string;
    taxed: number;
    notes: string;
    returnAddress: string;
    payAddress: string;
    from: PayTerms["from"];
    earlyPercent: number;
    earlyDays: number;
    selfBills: number;
    deliveryTerms: string;
    deliveryPlace: string;
    carrier: string;
  }>(
    db,
    `SELECT tax_number AS taxNumber, language, taxed, notes, return_address AS returnAddress, pay_address AS payAddress, terms_from AS "from", early_percent AS earlyPercent,
            early_days AS earlyDays, self_bills AS selfBills, delivery_terms AS deliveryTerms, delivery_place AS deliveryPlace, carrier FROM supplier WHERE id = ?`,
  ).get(id)!;
  const { taxed, from, earlyPercent, earlyDays, selfBills, ...texts } = more;
  const open = sql<{ id: number }>(
    db,
    `SELECT id FROM purchase_order WHERE supplier = ? AND kind <> 'blanket' AND stage NOT IN ('closed', 'cancelled')
     AND kind <> 'standing' ORDER BY id DESC`,
  ).all(id);
  return {
    ...row,
    ...texts,
    taxed: taxed === 1,
    selfBills: selfBills === 1,
    terms: { days: row.termsDays, from, earlyPercent, earlyDays },
    text:
      sql<{ text: string }>(db, "SELECT text FROM standing_text WHERE supplier = ? AND kind IS NULL").get(id)?.text ??
      "",
    stockService: serviceOf(db, id),
    people: readPeople(db, id),
    files: sql<SupplierRecord["files"][number]>(
      db,
      "SELECT f.id, f.name, length(f.bytes) AS size, p.name AS by FROM supplier_file f JOIN person p ON p.id = f.person WHERE f.supplier = ? ORDER BY f.id",
    ).all(id),
    openOrders: orderRows(
      db,
      open.map((o) => o.id),
      today,
    ).sort((a, b) => b.id - a.id),
    agreements: readBlankets(db, today).filter((b) => b.supplierName === row.name),
    sold: readSoldBy(db, id, today),
    dealings: readDealings(db, id),
    year: sql<SupplierRecord["year"]>(
      db,
      `SELECT count(*) AS orders, coalesce(sum(home_net), 0) AS ordered,
              coalesce(sum(iif(stage = 'placed', home_net, 0)), 0) AS open
       FROM purchase_order WHERE supplier = ? AND kind <> 'blanket' AND placed >= date(?, '-1 year')`,
    ).get(id, today)!,
  };
}

function serviceOf(db: Db, supplier: SupplierId): SupplierRecord["stockService"] {
  const row = sql<{ address: string; token: number }>(
    db,
    "SELECT address, token <> '' AS token FROM stock_service WHERE supplier = ?",
  ).get(supplier);
  return row ? { address: row.address, hasToken: row.token === 1 } : null;
}

const readPeople = (db: Db, supplier: SupplierId): SupplierContact[] =>
  sql<Omit<SupplierContact, "forOrders" | "forQuotes" | "forInvoices"> & { o: number; q: number; i: number }>(
    db,
    "SELECT id, name, title, phone, mail, for_orders AS o, for_quotes AS q, for_invoices AS i FROM supplier_contact WHERE supplier = ? ORDER BY name, mail",
  )
    .all(supplier)
    .map(({ o, q, i, ...c }) => ({ ...c, forOrders: o === 1, forQuotes: q === 1, forInvoices: i === 1 }));

function readSoldBy(db: Db, supplier: SupplierId, today: Day): SoldItem[] {
  const breaks = new Map<number, SoldItem["breaks"]>();
  for (const b of sql<SoldItem["breaks"][number] & { sourcing: SourcingId }>(
    db,
    `SELECT b.sourcing, b.from_quantity AS "from", b.price, b.valid_to AS validTo FROM price_break b JOIN sourcing c ON c.id = b.sourcing
     WHERE c.supplier = ? AND coalesce(b.valid_to, '9') >= ? ORDER BY b.from_quantity, b.valid_from`,
  ).iterate(supplier, today)) {
    const { sourcing, ...rest } = b;
    breaks.set(sourcing, [...(breaks.get(sourcing) ?? []), rest]);
  }
  return sql<Omit<SoldItem, "breaks" | "preferred"> & { id: number; rank: number }>(
    db,
    `SELECT c.id, i.id AS item, i.code, i.name, c.their_code AS theirCode, u.name AS unit, c.lead_days AS leadDays, c.rank
     FROM sourcing c JOIN item i ON i.id = c.item JOIN unit u ON u.code = c.unit WHERE c.supplier = ? AND c.active = 1 AND i.active = 1 ORDER BY i.name`,
  )
    .all(supplier)
    .map(({ id, rank, ...s }) => ({ ...s, preferred: rank === 1, breaks: breaks.get(id) ?? [] }));
}

/** Orders placed, receipts, quotes and mails, the newest first. */
const readDealings = (db: Db, supplier: SupplierId): SupplierRecord["dealings"] =>
  sql<SupplierRecord["dealings"][number]>(
    db,
    `SELECT * FROM (
       SELECT placed AS at, 'order ' || number || ' placed' AS what, '/orders/' || id AS href, title AS about FROM purchase_order WHERE supplier = @s AND placed IS NOT NULL
       UNION ALL SELECT r.at, 'receipt ' || r.number, '/receipts/' || r.id, 'of ' || o.number FROM receipt r JOIN purchase_order o ON o.id = r.purchase_order WHERE o.supplier = @s
       UNION ALL SELECT coalesce(a.answered, q.at), 'quote ' || q.number || iif(a.answered IS NULL, ' asked for', ' answered'), '/quotes/' || q.id, '' FROM quote_asked a JOIN quote q ON q.id = a.quote WHERE a.supplier = @s)
     ORDER BY at DESC LIMIT 12`,
  ).all({ s: supplier });
