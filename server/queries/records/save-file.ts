import { recordOf } from "../../../core/keys";
import { money, moneyText } from "../../../core/numbers/money";
import { COLUMNS, cell, FILE_KINDS, type FileKind, weekdayText } from "../../../exchange/csv/kinds";
import { BYTE_ORDER_MARK, csvRecords } from "../../../exchange/csv/write";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";

type Row = Record<string, string | number | null>;
const numberIn = (cell: Row[string] | undefined) => (cell === null || cell === undefined ? null : Number(cell));

/** What stands in each file, by the names of its columns. */
const READ: Record<FileKind, { from: string; write?: (r: Row, home: string) => Row }> = {
  stores: {
    from: "SELECT code, name, address, receives, region FROM store ORDER BY code",
    write: (r) => ({ ...r, receives: weekdayText(Number(r.receives)) }),
  },
  rates: {
    from: "SELECT currency, day, rate FROM rate ORDER BY currency, day",
    write: (r) => ({ ...r, rate: cell.price(Number(r.rate)) }),
  },
  items: {
    from: "SELECT code, name, kind, category, unit, gtin, tax_rate AS tax, reference_cost, account, by_lot, by_serial, by_weight, shelf_days, least_days, weight FROM item WHERE active = 1 ORDER BY code",
    write: (r) => ({
      ...r,
      tax: cell.percent(Number(r.tax)),
      reference_cost: cell.price(numberIn(r.reference_cost)),
      by_lot: cell.yes(Number(r.by_lot)),
      by_serial: cell.yes(Number(r.by_serial)),
      by_weight: cell.yes(Number(r.by_weight)),
      weight: cell.quantity(numberIn(r.weight)),
    }),
  },
  accounts: { from: "SELECT code, name FROM account ORDER BY code" },
  budgets: {
    from: "SELECT code, name, starts, ends, amount FROM budget ORDER BY code, starts",
    write: (r, home) => ({ ...r, amount: moneyText(money(Number(r.amount), home)) }),
  },
  suppliers: {
    from: `SELECT s.code, s.name, s.address, s.currency, s.terms_days, s.lead_kind AS lead_days_are, s.delivers, s.taxed, s.region, s.cut_off, (SELECT p.login FROM person p WHERE p.id = s.buyer) AS buyer,
             (SELECT group_concat(c.name, '; ' ORDER BY c.id) FROM supplier_contact c WHERE c.supplier = s.id AND c.for_orders = 1) AS contact,
             (SELECT group_concat(c.mail, ' ' ORDER BY c.id) FROM supplier_contact c WHERE c.supplier = s.id AND c.for_orders = 1) AS order_mails,
             s.order_minimum, s.freight, s.freight_free_from
           FROM supplier s WHERE s.active = 1 ORDER BY s.code`,
    write: (r) => ({
      ...r,
      delivers: weekdayText(Number(r.delivers)),
      taxed: cell.yes(Number(r.taxed)),
      order_minimum: cell.money(Number(r.order_minimum), String(r.currency)),
      freight: cell.money(Number(r.freight), String(r.currency)),
      freight_free_from:
        r.freight_free_from === null ? "" : cell.money(Number(r.freight_free_from), String(r.currency)),
    }),
  },
  sourcing: {
    from: `SELECT i.code AS item, s.code AS supplier, c.their_code, c.their_name, c.unit, c.factor, c.minimum, c.multiple, c.broken_packs, c.lead_days,
             c.standing_discount AS discount, c.rank
           FROM sourcing c JOIN item i ON i.id = c.item JOIN supplier s ON s.id = c.supplier WHERE c.active = 1 ORDER BY i.code, c.rank`,
    write: (r) => ({
      ...r,
      factor: cell.quantity(Number(r.factor)),
      minimum: cell.quantity(Number(r.minimum)),
      multiple: cell.quantity(Number(r.multiple)),
      broken_packs: cell.yes(Number(r.broken_packs)),
      discount: cell.percent(Number(r.discount)),
    }),
  },
  prices: {
    from: `SELECT i.code AS item, s.code AS supplier, b.from_quantity AS "from", b.price, b.valid_from, b.valid_to
           FROM price_break b JOIN sourcing c ON c.id = b.sourcing JOIN item i ON i.id = c.item JOIN supplier s ON s.id = c.supplier
           ORDER BY i.code, s.code, b.from_quantity, b.valid_from`,
    write: (r) => ({ ...r, from: cell.quantity(Number(r.from)), price: cell.price(Number(r.price)) }),
  },
  alternatives: {
    from: `SELECT i.code AS item, o.code AS other, a.both_ways, a.note FROM alternative a JOIN item i ON i.id = a.item JOIN item o ON o.id = a.other
           ORDER BY i.code, o.code`,
    write: (r) => ({ ...r, both_ways: cell.yes(Number(r.both_ways)) }),
  },
  lots: {
    from: `SELECT i.code AS item, s.code AS store, t.code AS lot, l.on_hand, l.bin, t.expires, t.held
           FROM stock_lot l JOIN lot t ON t.id = l.lot JOIN item i ON i.id = l.item JOIN store s ON s.id = l.store WHERE l.on_hand > 0 ORDER BY i.code, s.code, t.code`,
    write: (r) => ({ ...r, on_hand: cell.quantity(Number(r.on_hand)) }),
  },
  usage: {
    from: `SELECT i.code AS item, s.code AS store, m.day, -sum(m.quantity) AS quantity FROM movement m JOIN item i ON i.id = m.item JOIN store s ON s.id = m.store
           WHERE m.kind = 'issue' GROUP BY m.item, m.store, m.day HAVING sum(m.quantity) <= 0 ORDER BY i.code, s.code, m.day`,
    write: (r) => ({ ...r, quantity: cell.quantity(Number(r.quantity)) }),
  },
  outputs: {
    from: `SELECT j.code AS job, i.code AS item, s.code AS store, t.due, t.quantity, t.given
           FROM job_output t JOIN job j ON j.id = t.job JOIN item i ON i.id = t.item JOIN store s ON s.id = t.store
           WHERE t.given < t.quantity ORDER BY j.code, t.due, i.code`,
    write: (r) => ({ ...r, quantity: cell.quantity(Number(r.quantity)), given: cell.quantity(Number(r.given)) }),
  },
  orders: {
    from: `SELECT o.brought AS "order", p.code AS supplier, s.code AS store, i.code AS item, sum(d.quantity) AS quantity, min(d.requested) AS required, max(d.promised) AS promised, l.price
           FROM open_schedule d JOIN order_line l ON l.id = d.order_line JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier p ON p.id = o.supplier JOIN store s ON s.id = o.store JOIN item i ON i.id = l.item
           WHERE o.brought IS NOT NULL GROUP BY l.id ORDER BY o.id, l.position`,
    write: (r) => ({ ...r, quantity: cell.quantity(Number(r.quantity)), price: cell.price(numberIn(r.price)) }),
  },
  needs: {
    from: `SELECT i.code AS item, s.code AS store, n.quantity - (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.noted_need = n.id) AS quantity, '' AS unit, n.needed_by, n.note FROM noted_need n JOIN item i ON i.id = n.item JOIN store s ON s.id = n.store
           LEFT JOIN transfer_line m ON m.noted_need = n.id
           WHERE n.dropped IS NULL AND m.id IS NULL AND n.quantity > (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.noted_need = n.id) ORDER BY n.id`,
    write: (r) => ({ ...r, quantity: cell.quantity(Number(r.quantity)) }),
  },
  stock: {
    from: `SELECT i.code AS item, s.code AS store, p.on_hand, p.bin, p.policy, p.reorder_point, p.lot, p.level, p.cover_days, p.maximum, p.review_days
           FROM item_store p JOIN item i ON i.id = p.item JOIN store s ON s.id = p.store ORDER BY i.code, s.code`,
    write: (r) => ({
      ...r,
      on_hand: cell.quantity(Number(r.on_hand)),
      reorder_point: cell.quantity(Number(r.reorder_point)),
      lot: cell.quantity(Number(r.lot)),
      level: cell.quantity(Number(r.level)),
      maximum: cell.quantity(numberIn(r.maximum)),
    }),
  },
  jobs: {
    from: `SELECT j.code AS job, j.name, j.vessel, i.code AS item, s.code AS store, d.due, d.quantity, d.issued, j.kind
           FROM job_demand d JOIN job j ON j.id = d.job JOIN item i ON i.id = d.item JOIN store s ON s.id = d.store
           WHERE d.issued < d.quantity ORDER BY j.code, d.due, i.code`,
    write: (r) => ({ ...r, quantity: cell.quantity(Number(r.quantity)), issued: cell.quantity(Number(r.issued)) }),
  },
};

const PART = 1_000;

/** A file as CSV in UTF-8, as loading takes it, part by part. */
export function* savedParts(db: Db, kind: FileKind): Generator<string> {
  const { from, write = (r: Row) => r } = READ[kind];
  const columns = COLUMNS[kind].map((c) => c.name);
  const home = theCompany(db).currency;
  yield BYTE_ORDER_MARK + csvRecords([], columns);
  let rows: Row[] = [];
  for (const r of sql<Row>(db, from).iterate()) {
    rows.push(write(r, home));
    if (rows.length < PART) continue;
    yield csvRecords(rows, columns, false);
    rows = [];
  }
  yield csvRecords(rows, columns, false);
}

/** The same as one text. */
export const saveFile = (db: Db, kind: FileKind): string => [...savedParts(db, kind)].join("");

/** How many rows each file would have. */
export function fileCounts(db: Db): Record<FileKind, number> {
  return recordOf(
    FILE_KINDS,
    (kind) => sql<{ n: number }>(db, `SELECT count(*) AS n FROM (${READ[kind].from})`).get()!.n,
  );
}
