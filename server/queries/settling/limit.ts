import type { Day } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { exchanged, money, moneyText } from "../../../core/numbers/money";
import { type Hold, type HoldReason, TURN_OF } from "../../../core/settling/match";
import type { Facts } from "../../../core/signoff/rulebook";
import { type Db, sql } from "../../db/open";
import { budgetsOfInvoice } from "../budgets/budgets";
import { theCompany } from "../company";
import { readOrderHead } from "../orders/order";
import { factsOfOrder, type Route, routeOf } from "../signoff/route";
import { readRoster } from "../signoff/staff";
import type { InvoiceSheet } from "./invoices";

/** May somebody let so much pass; if not, who may. */
export type Accepting = { ok: true; says: string } | { ok: false; says: string };

/** What of an invoice decides who signs for more of it: as an order of the order's supplier, store and kind. */
function factsOf(
  db: Db,
  { head, lines }: InvoiceSheet,
  position: number | null,
  amount: number,
  day: Day,
): Facts & { writer: number } {
  const line = lines.find((l) => l.position === position) ?? lines.find((l) => l.order !== null);
  if (line?.order) {
    const facts = factsOfOrder(db, line.order, day);
    return { ...facts, amount, freight: 0, overBudget: false, writer: readOrderHead(db, line.order)!.writer };
  }
  const writer =
    sql<{ person: number | null }>(db, "SELECT person FROM invoice WHERE id = ?").get(head.id)!.person ?? 0;
  return {
    paper: "order",
    amount,
    department: readRoster(db, day).departmentOf(writer),
    categories: [],
    supplier: head.supplier,
    store: null,
    kind: null,
    overBudget: budgetsOfInvoice(db, head.id).some((b) => b.left < 0 && b.wish > 0),
    writer,
  };
}

/**
 * Who may let pass what is beyond tolerance: whoever could sign an order over as much, by the ladder in force; what nobody
 * has to sign, every buyer.
 */
export function mayAccept(
  db: Db,
  sheet: InvoiceSheet,
  hold: { position: number | null; beyond: number },
  person: number,
  day: Day,
): Accepting {
  const home = theCompany(db).currency;
  const amount = exchanged(money(hold.beyond, sheet.head.currency), sheet.head.rate, home).minor;
  const { writer, ...facts } = factsOf(db, sheet, hold.position, amount, day);
  const { way } = routeOf(db, facts, writer, day, []);
  const much = `${moneyText(money(amount, home))} ${home}`;
  if (!way.ok) return { ok: false, says: way.says };
  if (way.seats.length === 0) return { ok: true, says: `${much}: nobody has to sign so much.` };
  if (way.seats.every((s) => s.members.some((m) => m.id === person)))
    return { ok: true, says: `${much}: you may sign so much by ${way.ladder.name}.` };
  const names = [...new Set(way.seats.map((s) => s.name))].join(" and ");
  return { ok: false, says: `${much} is beyond what you may accept: by ${way.ladder.name} it is for ${names}.` };
}

/** What of a held invoice is for the ladder: what is dearer, and what no order has, each in words. */
export interface ForLadder extends Hold {
  words: string;
}
const WORDS: Partial<Record<HoldReason, string>> = {
  price: "dearer than ordered",
  charge: "dearer than agreed",
  other: "on no order",
};
export const forLadder = ({ open, lines }: Pick<InvoiceSheet, "open" | "lines">): ForLadder[] =>
  open.flatMap((h) => {
    const says = WORDS[h.reason];
    const words = lines.find((l) => l.position === h.position)?.words ?? "";
    return says && TURN_OF[h.reason] === "buyer" ? [{ ...h, words: [words, says].filter(Boolean).join(": ") }] : [];
  });

/** The same of what was handed up. */
export const askedOf = (db: Db, sheet: InvoiceSheet): ForLadder[] =>
  forLadder({
    lines: sheet.lines,
    open: sql<{ reason: HoldReason; position: number; beyond: number }>(
      db,
      "SELECT reason, position, beyond FROM invoice_asked WHERE invoice = ? ORDER BY beyond DESC",
    )
      .all(sheet.head.id)
      .map((h) => ({ ...h, position: h.position || null })),
  });

/** Who signs for all of it together, as for an order over as much. `person` asks. */
export function routeInvoice(
  db: Db,
  sheet: InvoiceSheet,
  person: PersonId,
  day: Day,
): Route & { holds: readonly ForLadder[] } {
  const home = theCompany(db).currency;
  const holds = forLadder(sheet);
  const beyond = holds.reduce((a, h) => a + h.beyond, 0);
  const amount = exchanged(money(beyond, sheet.head.currency), sheet.head.rate, home).minor;
  const { writer: _, ...facts } = factsOf(db, sheet, holds[0]?.position ?? null, amount, day);
  return { ...routeOf(db, facts, person, day), facts, hands: [person], growth: null, holds };
}
