import type { Day } from "../../../core/calendar/day";
import { lineNet, type UnitPrice } from "../../../core/numbers/money";
import type { OrderState } from "../../../core/orders/state";
import { type Totals, totals } from "../../../core/orders/totals";
import { type PriceSource, priceSum } from "../../../core/pricing/price";
import type { Sum } from "../../../core/sums/sum";
import { type Db, sql } from "../../db/open";
import { readSignatures, type Signature } from "../signoff";

export interface OrderHead {
  id: number;
  number: string | null;
  /** How people call it: its number, or "Draft 17". */
  name: string;
  state: OrderState;
  version: number;
  supplier: number;
  supplierName: string;
  supplierCode: string;
  supplierAddress: string;
  termsDays: number;
  store: number;
  storeName: string;
  storeAddress: string;
  currency: string;
  writer: number;
  writerName: string;
  required: Day;
  discount: number;
  note: string;
  written: string;
  submitted: string | null;
  cleared: string | null;
  placed: string | null;
  sentBack: string | null;
  rate: number | null;
  taxed: boolean;
}

export interface OrderLine {
  id: number;
  position: number;
  item: number | null;
  code: string | null;
  sourcing: number | null;
  words: string;
  theirCode: string;
  unit: string;
  stockUnit: string | null;
  factor: number;
  quantity: number;
  price: UnitPrice | null;
  priceSource: PriceSource;
  priceWarning: boolean;
  standing: number;
  discount: number;
  taxRate: number;
  required: Day;
  promised: Day | null;
  received: number;
  bin: string;
  /** Net amount in the order's minor unit; 0 while no price is known. */
  net: number;
  priceSum: Sum | null;
  serves: {
    source: string;
    quantity: number;
    requisition: number | null;
    number: string | null;
    asker: string | null;
    askerId: number | null;
    /** The job or customer order it is bought for. */
    job: number | null;
    jobName: string | null;
  }[];
}

export interface OrderSheet {
  head: OrderHead;
  lines: OrderLine[];
  totals: Totals;
  signatures: Signature[];
  receipts: { id: number; number: string; day: Day; person: string; note: string }[];
  mails: { id: number; at: string; recipients: string }[];
  versions: { version: number; at: string; person: string }[];
}

interface LineRow extends Omit<OrderLine, "priceSource" | "net" | "priceSum" | "serves" | "priceWarning"> {
  priceSource: string;
}

const HEAD = `
  SELECT o.id, o.number, o.state, o.version, o.supplier, s.name AS supplierName, s.code AS supplierCode, s.address AS supplierAddress,
         s.terms_days AS termsDays, o.store, t.name AS storeName, t.address AS storeAddress, o.currency, o.writer, w.name AS writerName,
         o.required, o.discount, o.note, o.written, o.submitted, o.cleared, o.placed, o.sent_back AS sentBack, o.rate, s.taxed
  FROM purchase_order o JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = o.store JOIN person w ON w.id = o.writer
  WHERE o.id = ?`;

const LINES = `
  SELECT l.id, l.position, l.item, i.code, l.sourcing, l.words, l.their_code AS theirCode, u.name AS unit, su.name AS stockUnit, l.factor, l.quantity,
         l.price, l.price_source AS priceSource, l.standing_discount AS standing, l.discount, l.tax_rate AS taxRate, l.required, l.promised,
         l.received, coalesce(p.bin, '') AS bin
  FROM order_line l JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item LEFT JOIN unit su ON su.code = i.unit
  LEFT JOIN item_store p ON p.item = l.item AND p.store = l.store
  WHERE l.purchase_order = ? ORDER BY l.position`;

const SERVES = `
  SELECT t.order_line AS line, t.source, t.quantity, r.id AS requisition, r.number, a.name AS asker, a.id AS askerId,
         j.id AS job, j.kind || ' ' || j.code || iif(j.vessel = '', '', ', ' || j.vessel) AS jobName
  FROM order_line l JOIN need_tie t ON t.order_line = l.id LEFT JOIN requisition_line q ON q.id = t.requisition_line
  LEFT JOIN requisition r ON r.id = q.requisition LEFT JOIN person a ON a.id = r.asker
  LEFT JOIN job_demand d ON d.id = t.job_demand LEFT JOIN job j ON j.id = d.job WHERE l.purchase_order = ?`;

export const orderName = (id: number, number: string | null) => number ?? `Draft ${id}`;

export function readOrderHead(db: Db, id: number): OrderHead | null {
  const row = sql<Omit<OrderHead, "name" | "taxed"> & { taxed: number }>(db, HEAD).get(id);
  return row ? { ...row, name: orderName(row.id, row.number), taxed: row.taxed === 1 } : null;
}

export function readOrderLines(db: Db, order: number, currency: string): OrderLine[] {
  const serves = new Map<number, OrderLine["serves"]>();
  for (const { line, ...tie } of sql<OrderLine["serves"][number] & { line: number }>(db, SERVES).iterate(order)) {
    serves.set(line, [...(serves.get(line) ?? []), tie]);
  }
  const rows = sql<LineRow>(db, LINES).all(order);
  return rows.map((r) => {
    const source = JSON.parse(r.priceSource) as PriceSource;
    const warning = source.kind === "reference cost";
    return {
      ...r,
      priceSource: source,
      priceWarning: warning,
      net: r.price === null ? 0 : lineNet(r.quantity, r.price, r.standing, r.discount, currency).minor,
      priceSum:
        r.price === null
          ? null
          : priceSum({ price: r.price, source, warning }, r.standing, r.discount, currency, r.unit),
      serves: serves.get(r.id) ?? [],
    };
  });
}

type Priceable = Pick<OrderLine, "net" | "taxRate">;

/** Totals over lines; a line that has no price yet counts as nothing. */
export function orderTotals(lines: readonly Priceable[], discount: number, currency: string): Totals {
  return totals(
    lines.map((l) => ({ net: l.net, taxRate: l.taxRate })),
    discount,
    currency,
  );
}

/** An order with all that its page shows. Null where there is none. */
export function readOrder(db: Db, id: number): OrderSheet | null {
  const head = readOrderHead(db, id);
  if (!head) return null;
  const lines = readOrderLines(db, id, head.currency);
  return {
    head,
    lines,
    totals: orderTotals(lines, head.discount, head.currency),
    signatures: readSignatures(db, "order", id),
    receipts: sql<OrderSheet["receipts"][number]>(
      db,
      `SELECT r.id, r.number, r.day, p.name AS person, r.delivery_note AS note FROM receipt r JOIN person p ON p.id = r.person
       WHERE r.purchase_order = ? ORDER BY r.id`,
    ).all(id),
    mails: sql<OrderSheet["mails"][number]>(
      db,
      "SELECT id, at, recipients FROM mail WHERE purchase_order = ? ORDER BY id",
    ).all(id),
    versions: sql<OrderSheet["versions"][number]>(
      db,
      "SELECT v.version, v.at, p.name AS person FROM order_version v JOIN person p ON p.id = v.person WHERE v.purchase_order = ? ORDER BY v.version",
    ).all(id),
  };
}
