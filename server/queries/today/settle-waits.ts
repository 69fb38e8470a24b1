import type { Day } from "../../../core/calendar/day";
import { quantityText } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import type { Turn } from "../../../core/settling/match";
import { turnsIn } from "../../../core/settling/match";
import { mayRelease } from "../../../core/settling/pay-list";
import { count, unitWords } from "../../../core/text";
import type { Waiting } from "../../../core/today/waiting";
import type { Person } from "../../acts/desk";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { type InvoiceHead, readInvoices } from "../settling/invoices";
import { readPayFrom, readPayLists } from "../settling/pay-lists";

/** Whose turn a person's roles make theirs: what only the supplier can mend is looked after by accounts. */
export const turnsOf = (person: Pick<Person, "roles">): Turn[] => [
  ...(may(person.roles, "accept prices") ? (["buyer"] as const) : []),
  ...(may(person.roles, "enter invoices") ? (["supplier"] as const) : []),
];

/** Held invoices whose turn it is. */
export const heldFor = (db: Db, person: Person): InvoiceHead[] => {
  const turns = turnsOf(person);
  return turns.length === 0
    ? []
    : readInvoices(db).filter((v) => v.state === "Held" && turnsIn(v.turn).some((t) => turns.includes(t)));
};

/** What of invoices waits for somebody: what is theirs to settle, and on the dock what is billed and not counted in. */
export function settleWaits(db: Db, person: Person, today: Day, forYou: Waiting[], withOthers: Waiting[]): void {
  if (may(person.roles, "see invoices")) {
    const mine = new Set(heldFor(db, person).map((v) => v.id));
    for (const v of readInvoices(db)) {
      if (v.state !== "Held") continue;
      const of = {
        key: `invoice/${v.id}`,
        by: v.due,
        title: `Invoice ${v.number} of ${v.supplierName}`,
        detail: v.orders ? `for ${v.orders.replaceAll(",", ", ")}` : "on no order",
        ifItStays: "it is not paid",
        figure: { minor: v.total, currency: v.currency },
        stop: "Settle",
        href: `/settle/${v.id}`,
      };
      if (mine.has(v.id)) forYou.push({ ...of, cost: "a colleague waits", doing: "settle" });
      else if (may(person.roles, "enter invoices"))
        withOthers.push({ ...of, cost: "something to know", doing: "open" });
    }
  }
  payWaits(db, person, forYou);
  if (may(person.roles, "count in")) dockWaits(db, person, today, forYou);
}

/** Pay lists that wait to be released, or to be handed to the bank. */
function payWaits(db: Db, person: Person, forYou: Waiting[]): void {
  if (!may(person.roles, "see payables")) return;
  const { releaseFrom } = readPayFrom(db);
  for (const q of readPayLists(db)) {
    const mine =
      q.state === "Written"
        ? may(person.roles, "release payments") && mayRelease(q.home, releaseFrom, q.writer, person.id)
        : q.state === "Released" && may(person.roles, "pay");
    if (mine)
      forYou.push({
        key: `pay-list/${q.id}`,
        cost: "a colleague waits",
        by: q.day,
        title: q.state === "Written" ? `Pay list ${q.number} waits to be released` : `Pay list ${q.number} is released`,
        detail: `${count(q.transfers, "transfer")}, written by ${q.writerName}`,
        ifItStays: "suppliers are not paid",
        figure: { minor: q.home, currency: theCompany(db).currency },
        doing: q.state === "Written" ? "look and release" : "hand it to the bank",
        stop: "Settle",
        href: `/pay-lists/${q.id}`,
      });
  }
}

/** Goods that somebody billed and nobody counted in: the dock says whether they are here. No money in it. */
function dockWaits(db: Db, person: Person, today: Day, forYou: Waiting[]): void {
  for (const r of sql<{
    order: number;
    number: string;
    words: string;
    missing: number;
    unit: string;
    supplier: string;
    day: Day;
  }>(
    db,
    `SELECT o.id AS "order", o.number, d.words, l.quantity - max(0, d.received - d.invoiced) AS missing, u.name AS unit, s.name AS supplier, v.day
     FROM invoice v JOIN invoice_line l ON l.invoice = v.id JOIN order_line d ON d.id = l.order_line JOIN purchase_order o ON o.id = d.purchase_order
     JOIN unit u ON u.code = d.unit JOIN supplier s ON s.id = v.supplier
     WHERE v.state = 'Held' AND d.kind <> 'charge' AND d.open = 1 AND l.quantity > max(0, d.received - d.invoiced) AND (@store IS NULL OR d.store = @store)
     GROUP BY d.id ORDER BY v.since, d.id LIMIT 50`,
  ).all({ store: person.store }))
    forYou.push({
      key: `billed/${r.order}/${r.words}`,
      cost: "a colleague waits",
      by: today,
      title: `${quantityText(r.missing)} ${unitWords(r.missing, r.unit)} of ${r.words} billed, not counted in`,
      detail: `${r.supplier}, order ${r.number}`,
      ifItStays: "its invoice is not settled",
      doing: "is it here?",
      stop: "Dock",
      href: `/dock/${r.order}`,
    });
}
