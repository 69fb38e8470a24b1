import type { Day } from "../../../core/calendar/day";
import type { OrderId, PersonId, RequisitionId, StoreId, SupplierId } from "../../../core/ids";
import { exchanged, lineNet, type UnitPrice } from "../../../core/numbers/money";
import { type Growth, grown } from "../../../core/signoff/growth";
import { type Facts, type Ladder, ladderFor, SIGNED_KINDS, WIDE } from "../../../core/signoff/rulebook";
import { type Way, wayFor } from "../../../core/signoff/way";
import { FactsColumn, IdsOrNone, readColumn, Texts } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { type BudgetView, budgetsOfOrder, budgetsOfRequisition } from "../budgets/budgets";
import { rateOn, theCompany } from "../company";
import { type KeptRulebook, rulebookOn } from "./rulebooks";
import { readRoster } from "./staff";

/** Who has to sign a paper as it stands, by which rules, and what decided it. */
export interface Route {
  way: Way;
  facts: Facts;
  /** Whose own paper it is, its writer among them. */
  hands: readonly number[];
  book: KeptRulebook | null;
  /** Where it was signed before: how much it has grown since. */
  growth: Growth | null;
}

/** Finds who has to sign, for any facts: of a paper, or of one that somebody thinks of. */
export function routeOf(
  db: Db,
  facts: Facts,
  writer: number,
  day: Day,
  hands: readonly number[] = [writer],
): Pick<Route, "way" | "book"> {
  const book = rulebookOn(db, day);
  if (!book) {
    const says =
      "No spend ladder says who signs this, so it cannot be submitted. The purchasing lead can add one under Spend ladders.";
    return { book, way: { ok: false, says } };
  }
  return { book, way: wayFor(book, facts, writer, readRoster(db, day), theCompany(db).currency, hands) };
}

/**
 * What of an order somebody last signed: the round, and what decided it then. Null where nobody ever did: what cleared
 * below every limit, or only carried on, is no signature to carry on from.
 */
export function lastSigned(db: Db, order: OrderId): { round: number; facts: Facts } | null {
  const row = sql<{ round: number; amount: number; facts: string | null }>(
    db,
    `SELECT g.round, g.amount, g.facts FROM signing g WHERE g.purchase_order = ? AND g.state = 'Cleared' AND g.carried = 0
       AND EXISTS (SELECT 1 FROM seat t JOIN signature x ON x.seat = t.id WHERE t.signing = g.id AND x.what = 'signed')
     ORDER BY g.round DESC LIMIT 1`,
  ).get(order);
  return row?.facts ? { round: row.round, facts: { ...readColumn(FactsColumn, row.facts), amount: row.amount } } : null;
}

/**
 * Whose own an order is: who wrote it, wrote it in another's name, changed or handed it in since it was last signed, or
 * asked for what it buys.
 */
export const handsOfOrder = (db: Db, order: OrderId, since: number): number[] =>
  sql<{ person: PersonId }>(
    db,
    `SELECT writer AS person FROM purchase_order WHERE id = @order
     UNION SELECT helper FROM purchase_order WHERE id = @order AND helper IS NOT NULL
     UNION SELECT person FROM order_hand WHERE purchase_order = @order AND round >= @since
     UNION SELECT coalesce(r.asker, n.person) FROM order_line l JOIN need_tie t ON t.order_line = l.id
       LEFT JOIN requisition_line q ON q.id = t.requisition_line LEFT JOIN requisition r ON r.id = q.requisition
       LEFT JOIN noted_need n ON n.id = t.noted_need
       WHERE l.purchase_order = @order AND coalesce(r.asker, n.person) IS NOT NULL`,
  )
    .all({ order, since })
    .map((r) => r.person);

/**
 * The way of an order: the whole, or none where it has hardly grown since it was signed (domain §8). Whoever has read its
 * budgets hands them over.
 */
export function routeOrder(db: Db, order: OrderId, day: Day, budgets = budgetsOfOrder(db, order, day)): Route {
  const { writer, ...facts } = factsAndWriter(db, order, day, budgets);
  const before = lastSigned(db, order);
  const hands = handsOfOrder(db, order, before?.round ?? 0);
  if (!before) return { ...routeOf(db, facts, writer, day, hands), facts, hands, growth: null };
  const book = rulebookOn(db, day);
  const changed: Facts = { ...facts, paper: "change" };
  const asChange = book && ladderFor(book, changed) ? changed : facts;
  const routed = { ...routeOf(db, asChange, writer, day, hands), facts: asChange, hands };
  if (!book) return { ...routed, growth: null };
  const growth = grown(before.facts, facts, book, theCompany(db).currency);
  if (growth.again) return { ...routed, growth };
  return {
    facts: asChange,
    hands,
    book,
    growth,
    way: { ok: true, ladder: CARRIED_ON, seats: [], own: false, sum: growth.sum },
  };
}

/**
 * Does a cleared order come to so much more today than when it was handed in that it has to be signed after all? Only what
 * it comes to counts, by the rate of the day. What nobody had to sign has no allowance: the rules decide on it anew.
 */
export function outgrown(db: Db, order: OrderId, day: Day): boolean {
  const row = sql<{ amount: number; facts: string | null }>(
    db,
    "SELECT amount, facts FROM signing WHERE purchase_order = ? AND state = 'Cleared' ORDER BY round DESC LIMIT 1",
  ).get(order);
  const book = rulebookOn(db, day);
  if (!row?.facts || !book) return false;
  const handedIn = { ...readColumn(FactsColumn, row.facts), amount: row.amount };
  const { amount, freight, writer } = sql<{ amount: number; freight: number; writer: number }>(
    db,
    "SELECT home_net + home_freight AS amount, home_freight AS freight, writer FROM purchase_order WHERE id = ?",
  ).get(order)!;
  const now: Facts =
    handedIn.freight === undefined ? { ...handedIn, amount: amount - freight } : { ...handedIn, amount, freight };
  if (now.amount <= handedIn.amount) return false;
  const signed = lastSigned(db, order);
  if (signed) return grown(signed.facts, now, book, theCompany(db).currency).again;
  const { way } = routeOf(db, now, writer, day);
  return !way.ok || way.seats.length > 0;
}

/** What needs no ladder, as it was signed before. */
const CARRIED_ON: Ladder = { ...WIDE, id: 0, name: "carried on", papers: [], rungs: [] };

/** What of an order is signed for: its lines and the freight of its supplier, home currency, net of tax. */
export const toSignOf = (db: Db, order: OrderId): number =>
  sql<{ amount: number }>(db, "SELECT home_net + home_freight AS amount FROM purchase_order WHERE id = ?").get(order)!
    .amount;

/** What of an order decides who signs it. */
export function factsOfOrder(db: Db, order: OrderId, day: Day, budgets = budgetsOfOrder(db, order, day)): Facts {
  const { writer: _, ...facts } = factsAndWriter(db, order, day, budgets);
  return facts;
}

function factsAndWriter(db: Db, order: OrderId, day: Day, budgets: readonly BudgetView[]): Facts & { writer: number } {
  const row = sql<{
    kind: string;
    amount: number;
    freight: number;
    supplier: SupplierId;
    store: StoreId;
    department: number | null;
    writer: number;
    categories: string | null;
  }>(
    db,
    `SELECT o.kind, o.home_net + o.home_freight AS amount, o.home_freight AS freight, o.supplier, o.store, o.department, o.writer,
            (SELECT json_group_array(DISTINCT i.category) FROM order_line l JOIN item i ON i.id = l.item WHERE l.purchase_order = o.id AND i.category <> '') AS categories
     FROM purchase_order o WHERE o.id = ?`,
  ).get(order)!;
  return {
    paper: row.kind === "blanket" ? "blanket" : "order",
    amount: row.amount,
    freight: row.freight,
    department: row.department ?? servedDepartment(db, order) ?? readRoster(db, day).departmentOf(row.writer),
    categories: readColumn(Texts, row.categories ?? "[]"),
    supplier: row.supplier,
    store: row.store,
    kind: SIGNED_KINDS.find((k) => k === row.kind) ?? null,
    overBudget: budgets.some((b) => b.left < 0 && b.wish > 0),
    writer: row.writer,
  };
}

/** The department whose requisitions an order serves, where it is one alone. */
function servedDepartment(db: Db, order: OrderId): number | null {
  const rows = sql<{ department: number | null }>(
    db,
    `SELECT DISTINCT coalesce(r.department, p.department) AS department FROM order_line l JOIN need_tie t ON t.order_line = l.id
     JOIN requisition_line q ON q.id = t.requisition_line JOIN requisition r ON r.id = q.requisition JOIN person p ON p.id = r.asker
     WHERE l.purchase_order = ?`,
  ).all(order);
  return rows.length === 1 ? rows[0]!.department : null;
}

/**
 * The way of an agreement: that of a blanket order over what may lie here at most, each item at its dearest price (home
 * currency, at the rate of the day).
 */
export function routeAgreement(db: Db, agreement: number, day: Day): Route {
  const row = sql<{
    supplier: SupplierId;
    store: StoreId;
    currency: string;
    writer: PersonId;
    categories: string | null;
  }>(
    db,
    `SELECT a.supplier, a.store, a.currency, a.writer,
            (SELECT json_group_array(DISTINCT i.category) FROM agreement_item x JOIN item i ON i.id = x.item WHERE x.agreement = a.id AND i.category <> '') AS categories
     FROM agreement a WHERE a.id = ?`,
  ).get(agreement)!;
  const facts: Facts = {
    paper: "blanket",
    amount: worthAtMost(db, agreement, row.currency, day),
    department: readRoster(db, day).departmentOf(row.writer),
    categories: readColumn(Texts, row.categories ?? "[]"),
    supplier: row.supplier,
    store: row.store,
    kind: null,
    overBudget: false,
  };
  return { ...routeOf(db, facts, row.writer, day), facts, hands: [row.writer], growth: null };
}

/** What may lie here at most, home currency: of each item the most, at its dearest price. */
function worthAtMost(db: Db, agreement: number, currency: string, day: Day): number {
  const home = theCompany(db).currency;
  const rate = rateOn(db, currency, home, day) ?? 0;
  return sql<{ most: number; price: UnitPrice }>(
    db,
    "SELECT x.most, max(p.price) AS price FROM agreement_item x JOIN agreement_price p ON p.agreement_item = x.id WHERE x.agreement = ? GROUP BY x.id",
  )
    .all(agreement)
    .reduce((a, i) => a + exchanged(lineNet(i.most, i.price, 0, 0, currency), rate, home).minor, 0);
}

/** The way of a requisition. `about` is what it comes to, home currency. */
export function routeRequisition(db: Db, requisition: RequisitionId, about: number, day: Day): Route {
  const row = sql<{
    asker: number;
    store: StoreId;
    department: number | null;
    categories: string | null;
    suppliers: string;
  }>(
    db,
    `SELECT r.asker, r.store, r.department,
            (SELECT json_group_array(DISTINCT i.category) FROM requisition_line q JOIN item i ON i.id = q.item WHERE q.requisition = r.id AND i.category <> '') AS categories,
            (SELECT json_group_array(DISTINCT q.supplier) FROM requisition_line q WHERE q.requisition = r.id) AS suppliers
     FROM requisition r WHERE r.id = ?`,
  ).get(requisition)!;
  const suppliers = readColumn(IdsOrNone, row.suppliers);
  const facts: Facts = {
    paper: "requisition",
    amount: about,
    department: row.department ?? readRoster(db, day).departmentOf(row.asker),
    categories: readColumn(Texts, row.categories ?? "[]"),
    supplier: suppliers.length === 1 ? suppliers[0]! : null,
    store: row.store,
    kind: null,
    overBudget: budgetsOfRequisition(db, requisition, day).some((b) => b.left < 0 && b.wish > 0),
  };
  return { ...routeOf(db, facts, row.asker, day), facts, hands: [row.asker], growth: null };
}
