import type { Day } from "../../../core/calendar/day";
import { exchanged, money, moneyText } from "../../../core/numbers/money";
import type { HoldReason } from "../../../core/settling/match";
import type { Facts } from "../../../core/signoff/rulebook";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { readOrderHead } from "../orders/order";
import { factsOfOrder, routeOf } from "../signoff/route";
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
    overBudget: false,
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
  hold: { reason: HoldReason; position: number | null; beyond: number },
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
