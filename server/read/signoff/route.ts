import type { Day } from "../../../core/calendar/day";
import { type Growth, grown } from "../../../core/signoff/growth";
import { type Facts, type Ladder, ladderFor, SIGNED_KINDS, WIDE } from "../../../core/signoff/rulebook";
import { type Way, wayFor } from "../../../core/signoff/way";
import { type Db, sql } from "../../db/open";
import { budgetsOfOrder, budgetsOfRequisition } from "../budgets/budgets";
import { theCompany } from "../company";
import { type KeptRulebook, rulebookOn } from "./rulebooks";
import { readRoster } from "./staff";

/** Who has to sign a paper as it stands, by which rules, and what decided it. */
export interface Route {
  way: Way;
  facts: Facts;
  book: KeptRulebook | null;
  /** Where it was signed before: how much it has grown since. */
  growth: Growth | null;
}

/** Finds who has to sign, for any facts: of a paper, or of one that somebody thinks of. */
export function routeOf(db: Db, facts: Facts, writer: number, day: Day): Pick<Route, "way" | "book"> {
  const book = rulebookOn(db, day);
  if (!book) {
    const says =
      "No spend ladder says who signs this, so it cannot be submitted. The purchasing lead can add one under Spend ladders.";
    return { book, way: { ok: false, says } };
  }
  return { book, way: wayFor(book, facts, writer, readRoster(db, day), theCompany(db).currency) };
}

/** What a paper was worth when it was last signed, and who was to supply it. */
export interface LastSigned {
  amount: number;
  supplier: number | null;
  at: string;
}

/** The last time that an order went its whole way; null where it never did. What only carried on does not count. */
export const lastSigned = (db: Db, order: number): LastSigned | null =>
  sql<LastSigned>(
    db,
    `SELECT amount, json_extract(facts, '$.supplier') AS supplier, ended AS at FROM signing
     WHERE purchase_order = ? AND state = 'Cleared' AND carried = 0 ORDER BY round DESC LIMIT 1`,
  ).get(order) ?? null;

/**
 * The way of an order: the whole, or none where it has hardly grown since it was signed (domain §8). Whoever has read its
 * budgets hands them over.
 */
export function routeOrder(db: Db, order: number, day: Day, budgets = budgetsOfOrder(db, order, day)): Route {
  const facts = factsOfOrder(db, order, day, budgets);
  const { writer } = sql<{ writer: number }>(db, "SELECT writer FROM purchase_order WHERE id = ?").get(order)!;
  const before = lastSigned(db, order);
  if (!before) return { ...routeOf(db, facts, writer, day), facts, growth: null };
  const book = rulebookOn(db, day);
  const changed: Facts = { ...facts, paper: "change" };
  const asChange = book && ladderFor(book, changed) ? changed : facts;
  const routed = { ...routeOf(db, asChange, writer, day), facts: asChange };
  if (!book) return { ...routed, growth: null };
  const otherSupplier = before.supplier !== null && before.supplier !== facts.supplier;
  const growth = grown(before.amount, facts.amount, book.allowance, otherSupplier, theCompany(db).currency);
  if (growth.again) return { ...routed, growth };
  return {
    facts: asChange,
    book,
    growth,
    way: { ok: true, ladder: CARRIED_ON, seats: [], own: false, sum: growth.sum },
  };
}

/** What needs no ladder, as it was signed before. */
const CARRIED_ON: Ladder = { ...WIDE, id: 0, name: "carried on", papers: [], rungs: [] };

/** What of an order decides who signs it. */
export function factsOfOrder(db: Db, order: number, day: Day, budgets = budgetsOfOrder(db, order, day)): Facts {
  const row = sql<{
    kind: string;
    amount: number;
    supplier: number;
    store: number;
    department: number | null;
    writer: number;
    categories: string | null;
  }>(
    db,
    `SELECT o.kind, o.home_net AS amount, o.supplier, o.store, o.department, o.writer,
            (SELECT json_group_array(DISTINCT i.category) FROM order_line l JOIN item i ON i.id = l.item WHERE l.purchase_order = o.id AND i.category <> '') AS categories
     FROM purchase_order o WHERE o.id = ?`,
  ).get(order)!;
  return {
    paper: row.kind === "blanket" ? "blanket" : "order",
    amount: row.amount,
    department: row.department ?? servedDepartment(db, order) ?? readRoster(db, day).departmentOf(row.writer),
    categories: JSON.parse(row.categories ?? "[]") as string[],
    supplier: row.supplier,
    store: row.store,
    kind: SIGNED_KINDS.find((k) => k === row.kind) ?? null,
    overBudget: budgets.some((b) => b.left < 0 && b.wish > 0),
  };
}

/** The department whose requisitions an order serves, where it is one alone. */
function servedDepartment(db: Db, order: number): number | null {
  const rows = sql<{ department: number | null }>(
    db,
    `SELECT DISTINCT coalesce(r.department, p.department) AS department FROM order_line l JOIN need_tie t ON t.order_line = l.id
     JOIN requisition_line q ON q.id = t.requisition_line JOIN requisition r ON r.id = q.requisition JOIN person p ON p.id = r.asker
     WHERE l.purchase_order = ?`,
  ).all(order);
  return rows.length === 1 ? rows[0]!.department : null;
}

/** The way of a requisition. `about` is what it comes to, home currency. */
export function routeRequisition(db: Db, requisition: number, about: number, day: Day): Route {
  const row = sql<{
    asker: number;
    store: number;
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
  const suppliers = JSON.parse(row.suppliers) as (number | null)[];
  const facts: Facts = {
    paper: "requisition",
    amount: about,
    department: row.department ?? readRoster(db, day).departmentOf(row.asker),
    categories: JSON.parse(row.categories ?? "[]") as string[],
    supplier: suppliers.length === 1 ? suppliers[0]! : null,
    store: row.store,
    kind: null,
    overBudget: budgetsOfRequisition(db, requisition, day).some((b) => b.left < 0 && b.wish > 0),
  };
  return { ...routeOf(db, facts, row.asker, day), facts, growth: null };
}
