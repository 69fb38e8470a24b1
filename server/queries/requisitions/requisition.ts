import type { Day } from "../../../core/calendar/day";
import type {
  BudgetId,
  ItemId,
  PersonId,
  RequisitionId,
  RequisitionLineId,
  StoreId,
  TransferId,
} from "../../../core/ids";
import { Big, roundToInteger, safe } from "../../../core/numbers/decimal";
import { exponent } from "../../../core/numbers/money";
import type { RequisitionState } from "../../../core/requisitions/state";
import { DecisionDetail, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { orderName } from "../orders/order";
import { readSignings, type SigningView } from "../signoff/signings";

export interface RequisitionHead {
  id: RequisitionId;
  number: string | null;
  name: string;
  asker: number;
  askerName: string;
  store: StoreId;
  storeName: string;
  /** For whom, where it is not the asker’s own department. */
  department: number | null;
  neededBy: Day | null;
  reason: string;
  state: RequisitionState;
  version: number;
  started: string;
  submitted: string | null;
  sentBack: string | null;
  copiedFrom: number | null;
  endedWhy: string | null;
}

export interface RequisitionLine {
  id: RequisitionLineId;
  position: number;
  item: ItemId | null;
  code: string | null;
  itemName: string | null;
  unit: string;
  words: string;
  kind: "goods" | "service";
  quantity: number | null;
  account: string | null;
  budget: { id: BudgetId; code: string; name: string } | null;
  /** What the buyer made of it: another quantity, or something that stands in for it; and why. */
  decided: {
    quantity: number | null;
    offered: { id: ItemId; code: string; name: string; unit: string } | null;
    why: string;
    by: string;
  } | null;
  /** What the asker typed, home currency, where nobody knows what it costs. */
  estimate: number | null;
  /** The item has a reference cost; else the asker is asked for an estimate, which decides who signs. */
  costKnown: boolean;
  /** What it will about cost, home currency: typed, or quantity × reference cost. Null where nobody knows. */
  about: number | null;
  declined: string | null;
  transfer: { id: TransferId; number: string; state: string; day: Day; from: string } | null;
  /** The order lines that cover it, each with its part in stock units. */
  orders: OrderedPart[];
}

export interface OrderedPart {
  id: number;
  name: string;
  state: string;
  /** Purchase units of the order line. */
  received: number;
  quantity: number;
  due: Day;
}

export interface Attachment {
  id: number;
  name: string;
  size: number;
  by: string;
}

export interface TrailEntry {
  at: string;
  text: string;
  detail: string;
  href: string | null;
}

export interface RequisitionSheet {
  head: RequisitionHead;
  lines: RequisitionLine[];
  signings: SigningView[];
  watchers: { id: PersonId; name: string }[];
  attachments: Attachment[];
  /** The whole trail of papers: orders, signatures, receipts. */
  trail: TrailEntry[];
  /** Sum of what lines will about cost, home currency; null for whoever may not see it. */
  about: number | null;
}

const HEAD = `
  SELECT r.id, r.number, r.asker, a.name AS askerName, r.store, s.name AS storeName, r.department, r.needed_by AS neededBy, r.reason, r.state, r.version,
         r.started, r.submitted, r.sent_back AS sentBack, r.copied_from AS copiedFrom, r.ended_why AS endedWhy
  FROM requisition r JOIN person a ON a.id = r.asker JOIN store s ON s.id = r.store`;

export const requisitionName = (id: RequisitionId, number: string | null) => number ?? `Draft ${id}`;
const named = (r: Omit<RequisitionHead, "name">): RequisitionHead => ({ ...r, name: requisitionName(r.id, r.number) });

export function readRequisitionHead(db: Db, id: RequisitionId): RequisitionHead | null {
  const row = sql<Omit<RequisitionHead, "name">>(db, `${HEAD} WHERE r.id = ?`).get(id);
  return row ? named(row) : null;
}

interface LineRow extends Omit<RequisitionLine, "about" | "costKnown" | "orders" | "budget" | "decided" | "transfer"> {
  budgetId: number | null;
  budgetCode: string;
  budgetName: string;
  decidedQuantity: number | null;
  offeredId: number | null;
  offeredCode: string;
  offeredName: string;
  offeredUnit: string;
  decidedWhy: string;
  decidedBy: string | null;
  transferId: number | null;
  transferNumber: string;
  transferState: string;
  transferDay: Day;
  transferFrom: string;
  referenceCost: number | null;
}

function readOrdered(db: Db, requisition: RequisitionId): Map<number, OrderedPart[]> {
  const by = new Map<number, OrderedPart[]>();
  const rows = sql<Omit<OrderedPart, "name"> & { line: number; number: string | null }>(
    db,
    `SELECT t.requisition_line AS line, o.id, o.number, o.state, l.received, l.quantity, l.due
     FROM requisition_line q JOIN need_tie t ON t.requisition_line = q.id JOIN order_line l ON l.id = t.order_line
     JOIN purchase_order o ON o.id = l.purchase_order WHERE q.requisition = ? AND t.quantity > 0 ORDER BY l.id`,
  );
  for (const { line, number, ...part } of rows.iterate(requisition))
    by.set(line, [...(by.get(line) ?? []), { ...part, name: orderName(part.id, number) }]);
  return by;
}

export function readRequisitionLines(db: Db, id: RequisitionId): RequisitionLine[] {
  const rows = sql<LineRow>(
    db,
    `SELECT l.id, l.position, l.item, i.code, i.name AS itemName, coalesce(u.name, 'each') AS unit, l.words, l.kind, l.quantity, l.estimate, l.declined, l.account,
            b.id AS budgetId, b.code AS budgetCode, b.name AS budgetName, l.decided AS decidedQuantity, l.decided_why AS decidedWhy, d.name AS decidedBy,
            f.id AS offeredId, f.code AS offeredCode, f.name AS offeredName, fu.name AS offeredUnit,
            x.id AS transferId, x.number AS transferNumber, x.state AS transferState, x.day AS transferDay, xs.name AS transferFrom,
            i.reference_cost AS referenceCost
     FROM requisition_line l LEFT JOIN item i ON i.id = l.item LEFT JOIN unit u ON u.code = i.unit
     LEFT JOIN budget b ON b.id = l.budget LEFT JOIN person d ON d.id = l.decided_by
     LEFT JOIN item f ON f.id = l.offered LEFT JOIN unit fu ON fu.code = f.unit
     LEFT JOIN transfer_line tl ON tl.requisition_line = l.id LEFT JOIN transfer x ON x.id = tl.transfer LEFT JOIN store xs ON xs.id = x.from_store
     WHERE l.requisition = ? ORDER BY l.position`,
  ).all(id);
  const digits = exponent(theCompany(db).currency);
  const ordered = readOrdered(db, id);
  return rows.map((r) => ({
    id: r.id,
    position: r.position,
    item: r.item,
    code: r.code,
    itemName: r.itemName,
    unit: r.unit,
    words: r.words,
    kind: r.kind,
    quantity: r.quantity,
    account: r.account,
    estimate: r.estimate,
    costKnown: r.referenceCost !== null && r.referenceCost > 0,
    declined: r.declined,
    budget: r.budgetId === null ? null : { id: r.budgetId, code: r.budgetCode, name: r.budgetName },
    decided:
      r.decidedBy === null
        ? null
        : {
            quantity: r.decidedQuantity,
            offered:
              r.offeredId === null
                ? null
                : { id: r.offeredId, code: r.offeredCode, name: r.offeredName, unit: r.offeredUnit },
            why: r.decidedWhy,
            by: r.decidedBy,
          },
    about:
      r.estimate ??
      (r.referenceCost !== null && r.referenceCost > 0 && r.quantity !== null
        ? costOf(r.quantity, r.referenceCost, digits)
        : null),
    transfer:
      r.transferId === null
        ? null
        : {
            id: r.transferId,
            number: r.transferNumber,
            state: r.transferState,
            day: r.transferDay,
            from: r.transferFrom,
          },
    orders: ordered.get(r.id) ?? [],
  }));
}

/** What a quantity will about cost, by the cost of one stock unit. Throws where it comes to more than can be kept. */
export const costOf = (quantity: number, perUnit: number, digits: number) =>
  roundToInteger(new Big(quantity).div(10_000).times(perUnit).div(1_000_000).times(new Big(10).pow(digits)));

/** What all lines will about cost, in home currency. Throws where it comes to more than can be kept. */
export const aboutOf = (lines: readonly RequisitionLine[]): number =>
  lines.reduce((a, l) => safe(a + (l.about ?? 0)), 0);

/** A requisition with all that its page shows. Null where there is none. */
export function readRequisition(db: Db, id: RequisitionId): RequisitionSheet | null {
  const head = readRequisitionHead(db, id);
  if (!head) return null;
  const lines = readRequisitionLines(db, id);
  const signings = readSignings(db, "requisition", id);
  return {
    head,
    lines,
    signings,
    watchers: sql<{ id: number; name: string }>(
      db,
      "SELECT p.id, p.name FROM requisition_watcher w JOIN person p ON p.id = w.person WHERE w.requisition = ? ORDER BY p.name",
    ).all(id),
    attachments: sql<Attachment>(
      db,
      "SELECT a.id, a.name, length(a.bytes) AS size, p.name AS by FROM attachment a JOIN person p ON p.id = a.person WHERE a.requisition = ? ORDER BY a.id",
    ).all(id),
    trail: trailOf(db, head, signings),
    about: aboutOf(lines),
  };
}

/** What became of it, oldest first: each entry names its paper. */
function trailOf(db: Db, head: RequisitionHead, signings: SigningView[]): TrailEntry[] {
  const here = `/requisitions/${head.id}`;
  const trail: TrailEntry[] = [];
  if (head.submitted)
    trail.push({ at: head.submitted, text: `Requisition ${head.name} submitted`, detail: head.askerName, href: here });
  const signed = (list: SigningView[], href: string) => {
    for (const s of list)
      for (const seat of s.seats) {
        if (seat.state === "waiting")
          trail.push({ at: seat.asked ?? "", text: `Waits for ${seat.called}`, detail: "sign-off", href });
        for (const g of seat.signatures)
          trail.push(
            g.what === "signed"
              ? {
                  at: g.at,
                  text: `Signed by ${g.person}${g.forWhom ? ` for ${g.forWhom}` : ""}`,
                  detail: seat.name,
                  href,
                }
              : { at: g.at, text: `Sent back by ${g.person}`, detail: s.reason, href },
          );
      }
  };
  signed(signings, `${here}#sign-off`);
  const orders = sql<{
    id: number;
    number: string | null;
    written: string;
    placed: string | null;
    writer: string;
    supplier: string;
    state: string;
  }>(
    db,
    `SELECT DISTINCT o.id, o.number, o.written, o.placed, w.name AS writer, s.name AS supplier, o.state
     FROM requisition_line q JOIN need_tie t ON t.requisition_line = q.id JOIN order_line l ON l.id = t.order_line
     JOIN purchase_order o ON o.id = l.purchase_order JOIN person w ON w.id = o.writer JOIN supplier s ON s.id = o.supplier
     WHERE q.requisition = ? ORDER BY o.id`,
  ).all(head.id);
  for (const o of orders) {
    const name = orderName(o.id, o.number);
    const href = `/orders/${o.id}`;
    trail.push({ at: o.written, text: `Order ${name} written`, detail: `${o.supplier}, by ${o.writer}`, href });
    signed(readSignings(db, "order", o.id), `${href}#sign-off`);
    if (o.placed) trail.push({ at: o.placed, text: `Order ${name} placed`, detail: o.supplier, href });
    if (o.state === "Cancelled")
      trail.push({ at: o.placed ?? o.written, text: `Order ${name} cancelled`, detail: o.supplier, href });
  }
  const receipts = sql<{ id: number; number: string; at: string; person: string; what: string }>(
    db,
    `SELECT r.id, r.number, r.at, p.name AS person, group_concat(coalesce(i.name, l.words), ', ') AS what
     FROM requisition_line q JOIN need_tie t ON t.requisition_line = q.id JOIN receipt_line rl ON rl.order_line = t.order_line
     JOIN receipt r ON r.id = rl.receipt JOIN person p ON p.id = r.person JOIN order_line l ON l.id = rl.order_line LEFT JOIN item i ON i.id = l.item
     WHERE q.requisition = ? GROUP BY r.id ORDER BY r.id`,
  ).all(head.id);
  for (const r of receipts)
    trail.push({
      at: r.at,
      text: `Receipt ${r.number}, counted in by ${r.person}`,
      detail: r.what,
      href: `/receipts/${r.id}`,
    });
  const transfers = sql<{
    id: number;
    number: string;
    at: string;
    moved: string | null;
    from: string;
    planner: string;
    mover: string | null;
  }>(
    db,
    `SELECT DISTINCT x.id, x.number, x.at, x.moved, s.name AS "from", p.name AS planner, m.name AS mover
     FROM requisition_line q JOIN transfer_line l ON l.requisition_line = q.id JOIN transfer x ON x.id = l.transfer
     JOIN store s ON s.id = x.from_store JOIN person p ON p.id = x.person LEFT JOIN person m ON m.id = x.moved_by WHERE q.requisition = ?`,
  ).all(head.id);
  for (const x of transfers) {
    const href = `/transfers/${x.id}`;
    trail.push({ at: x.at, text: `Transfer ${x.number} planned`, detail: `from ${x.from}, by ${x.planner}`, href });
    if (x.moved) trail.push({ at: x.moved, text: `Transfer ${x.number} moved`, detail: `by ${x.mover}`, href });
  }
  const decisions = sql<{ at: string; act: string; person: string; detail: string }>(
    db,
    `SELECT a.at, a.act, p.name AS person, a.detail FROM audit a JOIN person p ON p.id = a.person
     WHERE a.subject = ? AND a.act IN ('requisition.line-decided', 'requisition.line-declined', 'requisition.withdrawn', 'requisition.returned') ORDER BY a.id`,
  ).all(`requisition ${head.id}`);
  for (const d of decisions) {
    const { says, why } = readColumn(DecisionDetail, d.detail);
    trail.push({
      at: d.at,
      text: says ?? "Withdrawn",
      detail: [why, `by ${d.person}`].filter(Boolean).join(", "),
      href: null,
    });
  }
  return trail.sort((a, b) => a.at.localeCompare(b.at));
}

export interface RequisitionRow extends RequisitionHead {
  lines: number;
  ordered: number;
}

const LIST = HEAD.replace(
  "FROM requisition r",
  `, (SELECT count(*) FROM requisition_line l WHERE l.requisition = r.id) AS lines,
     (SELECT count(*) FROM requisition_line l WHERE l.requisition = r.id AND (EXISTS (SELECT 1 FROM need_tie t WHERE t.requisition_line = l.id) OR EXISTS (SELECT 1 FROM transfer_line m WHERE m.requisition_line = l.id))) AS ordered
   FROM requisition r`,
);

/** Requisitions, the newest first: one person's, or everybody's that were submitted. */
export function readRequisitions(db: Db, asker: number | null): RequisitionRow[] {
  const rows =
    asker === null
      ? sql<Omit<RequisitionRow, "name">>(db, `${LIST} WHERE r.state <> 'Draft' ORDER BY r.id DESC LIMIT 2000`).all()
      : sql<Omit<RequisitionRow, "name">>(
          db,
          `${LIST} WHERE r.asker = @asker OR (r.state <> 'Draft' AND r.id IN (SELECT requisition FROM requisition_watcher WHERE person = @asker))
             ORDER BY r.id DESC LIMIT 2000`,
        ).all({ asker });
  return rows.map((r) => ({ ...r, name: requisitionName(r.id, r.number) }));
}
