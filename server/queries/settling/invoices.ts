import type { Day } from "../../../core/calendar/day";
import type { OrderId, OrderLineId, SupplierId } from "../../../core/ids";
import { unitPrice } from "../../../core/numbers/money";
import type { ClaimReason, ClaimState } from "../../../core/settling/claim";
import type { InvoicedLine, InvoiceKind, InvoiceState, StatedTax } from "../../../core/settling/invoice";
import { type BilledPaper, type Hold, type HoldReason, holdsOf, type OrderedLine } from "../../../core/settling/match";
import { type Db, sql } from "../../db/open";
import { readOrderedLines } from "./ordered";

export interface InvoiceHead {
  id: number;
  supplier: SupplierId;
  supplierName: string;
  kind: InvoiceKind;
  number: string;
  day: Day;
  currency: string;
  /** Home currency for one, in millionths. */
  rate: number;
  net: number;
  tax: number;
  total: number;
  homeTotal: number;
  state: InvoiceState;
  /** Whose turn it is while it is held, several by commas. */
  turn: string;
  since: string;
  due: Day;
  earlyPercent: number;
  earlyBy: Day | null;
  note: string;
  why: string;
  matched: string | null;
  entry: number | null;
  version: number;
  person: string;
  at: string;
  /** Numbers of the orders that it bills, by commas. */
  orders: string;
}

const HEAD = `
  SELECT v.id, v.supplier, s.name AS supplierName, v.kind, v.number, v.day, v.currency, v.rate, v.net, v.tax, v.total, v.home_total AS homeTotal, v.state, v.turn, v.since,
         v.due, v.early_percent AS earlyPercent, v.early_by AS earlyBy, v.note, v.why, v.matched, v.entry, v.version, coalesce(p.name, 'a file in the inbox') AS person, v.at,
         coalesce((SELECT group_concat(DISTINCT o.number) FROM invoice_line l JOIN order_line d ON d.id = l.order_line JOIN purchase_order o ON o.id = d.purchase_order WHERE l.invoice = v.id), '') AS orders
  FROM invoice v JOIN supplier s ON s.id = v.supplier LEFT JOIN person p ON p.id = v.person`;

export const readInvoiceHead = (db: Db, id: number): InvoiceHead | null =>
  sql<InvoiceHead>(db, `${HEAD} WHERE v.id = ?`).get(id) ?? null;

/** Invoices, those that are held first, the longest first, then the last first. */
export const readInvoices = (db: Db, supplier: SupplierId | null = null): InvoiceHead[] =>
  sql<InvoiceHead>(
    db,
    `${HEAD} WHERE @supplier IS NULL OR v.supplier = @supplier
     ORDER BY v.state <> 'Held', iif(v.state = 'Held', v.since, ''), v.id DESC LIMIT 500`,
  ).all({ supplier });

/** A line with what its page shows beside the money. */
export interface InvoiceLineRow extends InvoicedLine {
  id: number;
  words: string;
  code: string;
  unit: string;
  order: OrderId | null;
  orderNumber: string;
  account: string | null;
  /** The budget line that it goes against, by its code; of what no order has. */
  budget: string | null;
  /** Of what was received and not invoiced, home currency; null until it matched. */
  met: number | null;
}

export const readInvoiceLines = (db: Db, invoice: number): InvoiceLineRow[] =>
  sql<InvoiceLineRow>(
    db,
    `SELECT l.id, l.position, l.order_line AS orderLine, l.quantity, l.price, l.standing, l.discount, l.net, l.tax_rate AS taxRate, l.account, (SELECT b.code FROM budget b WHERE b.id = l.budget) AS budget, l.met,
            coalesce(d.words, l.words) AS words, coalesce(i.code, d.their_code, '') AS code, coalesce(u.name, '') AS unit, o.id AS "order", coalesce(o.number, '') AS orderNumber
     FROM invoice_line l LEFT JOIN order_line d ON d.id = l.order_line LEFT JOIN unit u ON u.code = d.unit LEFT JOIN item i ON i.id = d.item LEFT JOIN purchase_order o ON o.id = d.purchase_order
     WHERE l.invoice = ? ORDER BY l.position`,
  )
    .all(invoice)
    .map((l) => ({ ...l, price: unitPrice(l.price) }));

export interface TaxRow extends StatedTax {
  allowance: number;
}
export const readInvoiceTaxes = (db: Db, invoice: number): TaxRow[] =>
  sql<TaxRow>(db, "SELECT rate, base, tax, allowance FROM invoice_tax WHERE invoice = ? ORDER BY rate DESC").all(
    invoice,
  );

export interface PassRow {
  reason: HoldReason;
  position: number | null;
  beyond: number;
  claim: number | null;
  said: string;
  person: string;
  at: string;
}
export const readPasses = (db: Db, invoice: number): PassRow[] =>
  sql<PassRow>(
    db,
    `SELECT a.reason, a.position, a.beyond, a.claim, a.said, p.name AS person, a.at FROM invoice_pass a JOIN person p ON p.id = a.person
     LEFT JOIN claim c ON c.id = a.claim WHERE a.invoice = ? AND (a.claim IS NULL OR c.state <> 'Withdrawn') ORDER BY a.id`,
  ).all(invoice);

export interface ClaimRow {
  id: number;
  number: string;
  supplier: SupplierId;
  supplierName: string;
  invoice: number;
  invoiceNumber: string;
  position: number | null;
  words: string;
  unit: string;
  reason: ClaimReason;
  /** Purchase units that are not here, and are not invoiced for it. */
  quantity: number;
  /** Of goods that turned out not good: so many. */
  pieces: number;
  currency: string;
  net: number;
  tax: number;
  state: ClaimState;
  home: number;
  said: string;
  how: string;
  /** The credit note that met it. */
  credit: number | null;
  /** By which it was booked; null: with its invoice. */
  entry: number | null;
  /** The return with which the goods went back. */
  goodsReturn: number | null;
  returnNumber: string | null;
  /** It was parted from this one, when a part was credited. */
  partOf: string | null;
  ended: string | null;
  day: Day;
  /** When the supplier was last written to about it. */
  written: string | null;
  version: number;
  person: string;
}
const CLAIM = `
  SELECT c.id, c.number, c.supplier, s.name AS supplierName, c.invoice, v.number AS invoiceNumber, l.position, coalesce(d.words, l.words, '') AS words, coalesce(u.name, '') AS unit,
         c.reason, c.quantity, c.pieces, c.currency, c.net, c.tax, c.state, c.home, c.said, c.how, c.credit, c.entry, c.goods_return AS goodsReturn, g.number AS returnNumber, (SELECT w.number FROM claim w WHERE w.id = c.part_of) AS partOf, c.ended, c.day, c.written, c.version, p.name AS person
  FROM claim c JOIN supplier s ON s.id = c.supplier JOIN invoice v ON v.id = c.invoice JOIN person p ON p.id = c.person
  LEFT JOIN invoice_line l ON l.id = c.invoice_line LEFT JOIN order_line d ON d.id = l.order_line LEFT JOIN unit u ON u.code = d.unit LEFT JOIN goods_return g ON g.id = c.goods_return`;
export const readClaims = (db: Db, invoice: number | null = null): ClaimRow[] =>
  sql<ClaimRow>(
    db,
    `${CLAIM} WHERE @invoice IS NULL OR c.invoice = @invoice ORDER BY c.state <> 'Open', c.id DESC LIMIT 500`,
  ).all({ invoice });
export const readClaim = (db: Db, id: number): ClaimRow | null =>
  sql<ClaimRow>(db, `${CLAIM} WHERE c.id = ?`).get(id) ?? null;

/** An invoice as it is held against what was ordered and what came. */
export interface InvoiceSheet {
  head: InvoiceHead;
  lines: InvoiceLineRow[];
  taxes: TaxRow[];
  paper: BilledPaper;
  ordered: Map<OrderLineId, OrderedLine>;
  /** All that is held, what somebody let pass, too. */
  holds: Hold[];
  /** Of it, what nobody let pass. */
  open: Hold[];
  passes: PassRow[];
}

/** What of these holds nobody let pass: a pass counts up to what it was given for. */
export const stillHeld = (holds: readonly Hold[], passes: readonly PassRow[]): Hold[] =>
  holds.filter((h) => !passes.some((p) => p.reason === h.reason && p.position === h.position && p.beyond >= h.beyond));

export function readInvoice(db: Db, id: number): InvoiceSheet | null {
  const head = readInvoiceHead(db, id);
  if (!head) return null;
  const lines = readInvoiceLines(db, id);
  const taxes = readInvoiceTaxes(db, id);
  const paper: BilledPaper = {
    lines,
    taxes,
    allowances: taxes.filter((t) => t.allowance !== 0).map((t) => ({ rate: t.rate, minor: t.allowance })),
    total: head.total,
    currency: head.currency,
  };
  const ids = [...new Set(lines.flatMap((l) => l.orderLine ?? []))];
  const ordered = readOrderedLines(db, ids, head.currency, head.rate);
  // What this paper bills itself is no reason against it.
  if (head.entry !== null && head.matched !== null)
    for (const l of lines) {
      const o = l.orderLine === null ? undefined : ordered.get(l.orderLine);
      if (o) ordered.set(o.line, { ...o, invoiced: Math.max(0, o.invoiced - l.quantity) });
    }
  const passes = readPasses(db, id);
  const holds = holdsOf(paper, ordered);
  return { head, lines, taxes, paper, ordered, holds, open: stillHeld(holds, passes), passes };
}

/** A supplier's name; null where there is none. */
export const supplierName = (db: Db, supplier: number): string | null =>
  sql<{ name: string }>(db, "SELECT name FROM supplier WHERE id = ?").get(supplier)?.name ?? null;

/** The last invoices of a supplier that still count, to see whether one is here already. */
export const invoicesOf = (db: Db, supplier: number) =>
  sql<{ id: number; number: string; day: Day; total: number; currency: string }>(
    db,
    `SELECT id, number, day, total, currency FROM invoice WHERE supplier = ? AND state NOT IN ('Sent back', 'Taken off')
     ORDER BY day DESC, id DESC LIMIT 20`,
  ).all(supplier);
