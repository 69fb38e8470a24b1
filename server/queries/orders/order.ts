import type { Day } from "../../../core/calendar/day";
import type {
  BudgetId,
  ItemId,
  JobId,
  OrderId,
  OrderLineId,
  ReceiptId,
  RequisitionId,
  SourcingId,
  StoreId,
  SupplierId,
} from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { lineNet, type UnitPrice } from "../../../core/numbers/money";
import { ONE } from "../../../core/numbers/quantity";
import type { CostLine } from "../../../core/orders/charges";
import type { Limit, LineKind, OrderKind, Spread } from "../../../core/orders/kinds";
import type { Scheduled } from "../../../core/orders/schedule";
import type { OrderStage, OrderState } from "../../../core/orders/status";
import { taxRateOf } from "../../../core/orders/tax";
import type { PayTerms } from "../../../core/orders/terms";
import { type Totals, totals } from "../../../core/orders/totals";
import type { PriceSource } from "../../../core/pricing/price";
import { PriceSourceColumn, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { languageOr } from "../papers/templates";
import type { OrderTerms } from "../records/terms";
import { rememberSettings } from "../remember";
import { readSignings, type SigningView } from "../signoff/signings";
import { readSchedules } from "./schedule";

export interface OrderHead {
  id: OrderId;
  number: string | null;
  kind: OrderKind;
  /** What a standing list or a blanket order is called. */
  title: string;
  /** How people call it: its number, or "Draft 17". */
  name: string;
  stage: OrderStage;
  /** The words for where it stands. */
  state: OrderState;
  version: number;
  supplier: SupplierId;
  supplierName: string;
  supplierCode: string;
  supplierRegion: string;
  supplierAddress: string;
  store: StoreId;
  storeName: string;
  storeAddress: string;
  currency: string;
  /** The one their prices are in. */
  theirCurrency: string;
  writer: number;
  writerName: string;
  /** Who wrote it in the writer's name. */
  helper: number | null;
  helperName: string | null;
  required: Day;
  validUntil: Day | null;
  discount: number;
  note: string;
  written: string;
  submitted: string | null;
  cleared: string | null;
  placed: string | null;
  sentBack: string | null;
  rate: number | null;
  /** What the supplier asks of an order as a whole. */
  orderTerms: OrderTerms;
  /** What its lines come to at home, net of tax and of the discount on the whole. */
  homeNet: number;
  /** What the supplier's rule charges for carrying it; no part of the totals. */
  freight: number;
  taxed: boolean;
  /** The person at the supplier whom it is addressed to. */
  contact: number | null;
  contactName: string | null;
  ourReference: string;
  theirReference: string;
  /** Its number in another system. */
  brought: string | null;
  terms: PayTerms;
  deliveryTerms: string;
  deliveryPlace: string;
  carrier: string;
  texts: string;
  /** Which of these say otherwise than the supplier's record, for this order alone. */
  own: { terms: boolean; delivery: boolean; carrier: boolean; texts: boolean };
  /** Where it goes instead of the store; empty for the store. */
  deliverName: string;
  deliverAddress: string;
  job: JobId | null;
  jobName: string | null;
  /** For whom it is, as far as signing goes; null: the askers’ whom it serves, or else the writer’s. */
  department: number | null;
  /** Why nobody may go on with it; empty where they may. */
  held: string;
  heldBy: string | null;
  heldAt: string | null;
  starts: Day | null;
  ends: Day | null;
  closed: string | null;
  closedWhy: string;
}

export interface OrderLine {
  id: OrderLineId;
  position: number;
  kind: LineKind;
  item: ItemId | null;
  code: string | null;
  gtin: string | null;
  sourcing: SourcingId | null;
  words: string;
  theirCode: string;
  unit: string;
  unitCode: string;
  stockUnit: string | null;
  factor: number;
  quantity: number;
  price: UnitPrice | null;
  priceSource: PriceSource;
  priceWarning: boolean;
  standing: number;
  discount: number;
  /** As it is charged: none where we account for the tax ourselves. */
  taxRate: number;
  /** The rate that somebody typed, whether or not it is charged now; null: it follows the item and the house. */
  taxTyped: number | null;
  /** The day asked for, and the day last promised; of several loads the first one's. */
  required: Day;
  promised: Day | null;
  /** When something of it comes next: its last promise, else the day asked for; of several loads the earliest to come. */
  due: Day;
  received: number;
  /** Of what came, what invoices bill that matched; purchase units. */
  invoiced: number;
  closedShort: number;
  /** The store that it comes to: the order's own, unless the line says otherwise. */
  store: StoreId;
  storeName: string;
  bin: string;
  /** Where its item usually lies. */
  usualBin: string;
  spread: Spread;
  account: string | null;
  budget: BudgetId | null;
  budgetCode: string | null;
  job: JobId | null;
  jobCode: string | null;
  note: string;
  ownNote: string;
  /** Ten-thousandths of a kilogram of one stock unit. */
  weight: number | null;
  limits: Limit;
  committedValue: number | null;
  least: number;
  /** The blanket line that it is drawn from. */
  blanketLine: number | null;
  blanket: { id: number; name: string } | null;
  /** Where it comes in several loads: each with its day, the earliest first. */
  instalments: Scheduled[];
  /** Net amount in the order's minor unit; 0 while no price is known. */
  net: number;
  serves: {
    source: string;
    quantity: number;
    requisition: RequisitionId | null;
    number: string | null;
    asker: string | null;
    askerId: number | null;
    /** The job or customer order it is bought for. */
    job: JobId | null;
    jobName: string | null;
  }[];
}

export interface OrderSheet {
  head: OrderHead;
  lines: OrderLine[];
  totals: Totals;
  signings: SigningView[];
  receipts: { id: ReceiptId; number: string; day: Day; person: string; note: string }[];
  /** `waits`: 1 while the message is not written to the outbox yet. */
  mails: { id: number; at: string; recipients: string; waits: 0 | 1 }[];
  /** As it was placed and changed, the first one first. */
  revisions: { revision: number; at: string; person: string }[];
  files: OrderFile[];
}

export interface OrderFile {
  id: number;
  name: string;
  size: number;
  /** Goes out with the order. */
  sent: boolean;
  by: string;
}

/** Files with an order, without their bytes. */
export const readOrderFiles = (db: Db, order: OrderId): OrderFile[] =>
  sql<Omit<OrderFile, "sent"> & { sent: number }>(
    db,
    "SELECT f.id, f.name, length(f.bytes) AS size, f.sent, p.name AS by FROM order_file f JOIN person p ON p.id = f.person WHERE f.purchase_order = ? ORDER BY f.id",
  )
    .all(order)
    .map((f) => ({ ...f, sent: f.sent === 1 }));

/** What of a line is worked out, and no column of its row. */
type WorkedOfLine = "serves" | "priceWarning" | "required" | "promised" | "blanket" | "instalments" | "net";
/** A row as it is read; what is worked out is put into it. */
type LineRow = Omit<OrderLine, WorkedOfLine | "priceSource"> &
  Partial<Pick<OrderLine, WorkedOfLine>> & {
    priceSource: string | PriceSource;
    itemRate?: number | null;
    taxed?: number;
    placed?: number;
    house?: number;
    drawnFrom?: number | null;
    drawnNumber?: string | null;
  };

const HEAD = `
  SELECT o.id, o.number, o.kind, o.title, o.stage, o.state, o.version, o.supplier, s.name AS supplierName, s.code AS supplierCode, s.region AS supplierRegion, s.address AS supplierAddress,
         o.store, t.name AS storeName, t.address AS storeAddress, o.currency, o.writer, w.name AS writerName, o.helper, h.name AS helperName,
         o.required, o.valid_until AS validUntil, o.discount, o.note, o.written, o.submitted, o.cleared, o.placed, o.sent_back AS sentBack, o.rate, o.freight, coalesce(o.taxed, s.taxed) AS taxed,
         o.contact, c.name AS contactName, o.our_reference AS ourReference, o.their_reference AS theirReference, o.brought,
         o.terms_days AS ownDays, coalesce(o.terms_days, s.terms_days) AS days, iif(o.terms_days IS NULL, s.terms_from, o.terms_from) AS "from",
         iif(o.terms_days IS NULL, s.early_percent, o.early_percent) AS earlyPercent, iif(o.terms_days IS NULL, s.early_days, o.early_days) AS earlyDays,
         o.delivery_terms AS ownDelivery, coalesce(o.delivery_terms, s.delivery_terms) AS deliveryTerms,
         coalesce(o.delivery_place, s.delivery_place) AS deliveryPlace, o.carrier AS ownCarrier, coalesce(o.carrier, s.carrier) AS carrier, o.texts AS ownTexts, s.language, s.currency AS theirCurrency, s.order_minimum AS minimum, s.freight AS theirFreight, s.freight_free_from AS freeFrom, s.blocked, o.home_net AS homeNet,
         o.deliver_name AS deliverName, o.deliver_address AS deliverAddress, o.department, o.job, j.kind || ' ' || j.code || iif(j.vessel = '', '', ', ' || j.vessel) AS jobName,
         o.held, b.name AS heldBy, o.held_at AS heldAt, o.starts, o.ends, o.closed, o.closed_why AS closedWhy
  FROM purchase_order o JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = o.store JOIN person w ON w.id = o.writer
  LEFT JOIN person h ON h.id = o.helper LEFT JOIN supplier_contact c ON c.id = o.contact LEFT JOIN job j ON j.id = o.job LEFT JOIN person b ON b.id = o.held_by
  WHERE o.id = ?`;

const LINES = `
  SELECT l.id, l.position, l.kind, l.item, i.code, i.gtin, l.sourcing, l.words, l.their_code AS theirCode, u.name AS unit, l.unit AS unitCode, su.name AS stockUnit, l.factor, l.quantity,
         l.price, l.price_source AS priceSource, l.standing_discount AS standing, l.discount, l.tax_rate AS taxRate, l.tax_typed AS taxTyped, i.tax_rate AS itemRate, coalesce(o.taxed, s.taxed) AS taxed, o.placed IS NOT NULL AS placed, l.due,
         l.received, l.invoiced, l.closed_short AS closedShort, l.store, t.name AS storeName, l.bin, coalesce(p.bin, '') AS usualBin, l.spread, l.account, l.budget, g.code AS budgetCode, l.job, j.code AS jobCode,
         l.note, l.own_note AS ownNote, i.weight, l.limits, l.committed_value AS committedValue, l.least, l.blanket_line AS blanketLine,
         b.id AS drawnFrom, b.number AS drawnNumber, c.tax_rate AS house
  FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier
  JOIN unit u ON u.code = l.unit JOIN store t ON t.id = l.store LEFT JOIN item i ON i.id = l.item
  LEFT JOIN unit su ON su.code = i.unit LEFT JOIN item_store p ON p.item = l.item AND p.store = l.store LEFT JOIN budget g ON g.id = l.budget LEFT JOIN job j ON j.id = l.job
  LEFT JOIN order_line d ON d.id = l.blanket_line LEFT JOIN purchase_order b ON b.id = d.purchase_order JOIN company c
  WHERE l.purchase_order = ? ORDER BY l.position`;

const SERVES = `
  SELECT t.order_line AS line, t.source, t.quantity, r.id AS requisition, r.number, a.name AS asker, a.id AS askerId,
         j.id AS job, j.kind || ' ' || j.code || iif(j.vessel = '', '', ', ' || j.vessel) AS jobName
  FROM order_line l JOIN need_tie t ON t.order_line = l.id LEFT JOIN requisition_line q ON q.id = t.requisition_line
  LEFT JOIN requisition r ON r.id = q.requisition LEFT JOIN person a ON a.id = r.asker
  LEFT JOIN job_demand d ON d.id = t.job_demand LEFT JOIN job j ON j.id = d.job WHERE l.purchase_order = ?`;

export const orderName = (id: number, number: string | null) => number ?? `Draft ${id}`;

/** The blanket order of a line that is drawn from. */
export function blanketOf(db: Db, line: OrderLineId | null): OrderLine["blanket"] {
  const row = sql<{ id: number; number: string | null }>(
    db,
    "SELECT b.id, b.number FROM order_line l JOIN purchase_order b ON b.id = l.purchase_order WHERE l.id = ?",
  ).get(line);
  return row ? { id: row.id, name: orderName(row.id, row.number) } : null;
}

type Worked = "orderTerms" | "name" | "taxed" | "terms" | "own" | "texts";
interface HeadRow extends Omit<OrderHead, Worked>, PayTerms {
  taxed: number;
  ownDays: number | null;
  ownDelivery: string | null;
  ownCarrier: string | null;
  ownTexts: string | null;
  language: string;
  minimum: number;
  theirFreight: number;
  freeFrom: number | null;
  blocked: string;
}

export function readOrderHead(db: Db, id: OrderId): OrderHead | null {
  const row = sql<HeadRow>(db, HEAD).get(id);
  if (!row) return null;
  const {
    days,
    from,
    earlyPercent,
    earlyDays,
    ownDays,
    ownDelivery,
    ownCarrier,
    ownTexts,
    language,
    minimum,
    theirFreight,
    freeFrom,
    blocked,
    ...head
  } = row;
  return {
    ...head,
    name: orderName(row.id, row.number),
    taxed: row.taxed === 1,
    terms: { days, from, earlyPercent, earlyDays },
    texts: ownTexts ?? standingTexts(db, row.kind, row.supplier, language),
    orderTerms: { minimum, freight: theirFreight, freeFrom, blocked },
    own: {
      terms: ownDays !== null,
      delivery: ownDelivery !== null,
      carrier: ownCarrier !== null,
      texts: ownTexts !== null,
    },
  };
}

/** The texts that stand on every order of a kind to a supplier, in their language, the general ones first. */
export const standingTexts = (db: Db, kind: OrderKind, supplier: SupplierId, theirs: string): string =>
  rememberSettings(db, `texts ${kind} ${supplier} ${theirs}`, () =>
    readTextsOn(db, kind, supplier, languageOr(db, theirs)),
  );

const readTextsOn = (db: Db, kind: OrderKind, supplier: SupplierId, language: string): string =>
  sql<{ text: string }>(
    db,
    `SELECT text FROM standing_text WHERE (kind IS NULL OR kind = ?) AND (supplier IS NULL OR supplier = ?) AND (language IS NULL OR language = ?)
     ORDER BY supplier IS NOT NULL, kind IS NOT NULL, id`,
  )
    .all(kind, supplier, language)
    .map((t) => t.text)
    .join("\n");

/** What a line comes to; a blanket line that is limited in value is never worth more than that. */
export function worthOf(
  r: Pick<OrderLine, "price" | "quantity" | "standing" | "discount" | "limits" | "committedValue">,
  currency: string,
): number {
  const priced = r.price === null ? 0 : lineNet(r.quantity, r.price, r.standing, r.discount, currency).minor;
  if (r.limits === "quantity" || r.committedValue === null) return priced;
  return r.limits === "value" ? r.committedValue : Math.min(priced, r.committedValue);
}

const byLine = <T extends { line: OrderLineId }>(rows: Iterable<T>): Map<number, Omit<T, "line">[]> => {
  const by = new Map<number, Omit<T, "line">[]>();
  for (const { line, ...rest } of rows) {
    const list = by.get(line);
    if (list) list.push(rest);
    else by.set(line, [rest]);
  }
  return by;
};

const NONE: never[] = [];

export function readOrderLines(db: Db, order: OrderId, currency: string): OrderLine[] {
  const serves = byLine(sql<OrderLine["serves"][number] & { line: OrderLineId }>(db, SERVES).iterate(order));
  const schedules = byLine(readSchedules(db, order));
  const rows = sql<LineRow>(db, LINES).all(order);
  // An order may have two thousand lines: copying each with all its fields would take longer than reading them.
  for (const r of rows) {
    const source = readColumn(PriceSourceColumn, r.priceSource as string); // as the statement reads it
    r.priceSource = source;
    r.priceWarning = source.kind === "reference cost";
    const typed = r.taxTyped ? r.taxRate : null;
    if (!r.placed) r.taxRate = taxRateOf({ taxed: r.taxed === 1, typed, item: r.itemRate ?? null, house: r.house! });
    r.taxTyped = typed;
    r.itemRate = r.taxed = r.placed = r.house = undefined;
    r.net = worthOf(r, currency);
    r.blanket = r.drawnFrom ? { id: r.drawnFrom, name: orderName(r.drawnFrom, r.drawnNumber!) } : null;
    r.drawnFrom = r.drawnNumber = undefined;
    const schedule = schedules.get(r.id)!;
    r.required = schedule[0]!.required;
    r.promised = schedule[0]!.promised;
    r.instalments = schedule.length > 1 ? schedule : NONE;
    r.serves = serves.get(r.id) ?? NONE;
  }
  return rows as OrderLine[]; // each was made one above
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
export function readOrder(db: Db, id: OrderId): OrderSheet | null {
  const head = readOrderHead(db, id);
  if (!head) return null;
  const lines = readOrderLines(db, id, head.currency);
  return {
    head,
    lines,
    totals: orderTotals(lines, head.discount, head.currency),
    signings: readSignings(db, "order", id),
    receipts: sql<OrderSheet["receipts"][number]>(
      db,
      `SELECT r.id, r.number, r.day, p.name AS person, r.delivery_note AS note FROM receipt r JOIN person p ON p.id = r.person
       WHERE r.purchase_order = ? ORDER BY r.id`,
    ).all(id),
    mails: sql<OrderSheet["mails"][number]>(
      db,
      "SELECT id, at, recipients, file IS NULL AS waits FROM mail WHERE purchase_order = ? ORDER BY id",
    ).all(id),
    revisions: sql<OrderSheet["revisions"][number]>(
      db,
      "SELECT v.revision, v.at, p.name AS person FROM order_revision v JOIN person p ON p.id = v.person WHERE v.purchase_order = ? ORDER BY v.revision",
    ).all(id),
    files: readOrderFiles(db, id),
  };
}

/** Lines as charges are spread over them. */
export const costLines = (lines: readonly OrderLine[]): CostLine[] =>
  lines.map((l) => ({
    id: l.id,
    position: l.position,
    kind: l.kind,
    spread: l.spread,
    net: l.net,
    weight:
      l.weight === null ? null : roundToInteger(new Big(l.weight).times(l.quantity).times(l.factor).div(ONE).div(ONE)),
  }));

/** An order by our number, or by the one it had in another system. */
export const orderByNumber = (db: Db, number: string): OrderId | null =>
  sql<{ id: OrderId }>(db, "SELECT id FROM purchase_order WHERE number = @number OR brought = @number").get({ number })
    ?.id ?? null;
