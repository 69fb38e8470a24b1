import type { Day } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import { may } from "../../../core/people/roles";
import type { Claimed } from "../../../core/settling/claim";
import { earlySum, paidBy } from "../../../core/settling/due";
import { billable, type Hold, orderedNet, type Stair, stairOf, TURN_OF, type Turn } from "../../../core/settling/match";
import type { Posting } from "../../../core/stock/posting";
import type { Sum } from "../../../core/sums/sum";
import type { Person } from "../../acts/desk";
import { type Db, sql } from "../../db/open";
import { payTerms } from "../consigned/papers";
import { bookingOf } from "./booking";
import { claimableOf } from "./claimable";
import {
  type ClaimRow,
  type InvoiceHead,
  type InvoiceLineRow,
  type InvoiceSheet,
  type PassRow,
  readClaims,
  readInvoice,
  type TaxRow,
} from "./invoices";
import { postingsOf } from "./journal";
import { type Accepting, mayAccept } from "./limit";
import { listedPriceOf } from "./listed";
import { type NotTakenIn, notTakenIn, returnsToCredit } from "./returned";

/** A line with what it is held against; quantities in purchase units, money in the invoice's currency. */
export interface MatchLine extends InvoiceLineRow {
  /** Null: no order has it. */
  against: { charge: boolean; ordered: number; received: number; billable: number; price: number } | null;
  /** What they ask above what is expected, without tax. */
  difference: number;
  /** What the supplier's price list says for it, where it says otherwise than they bill; null where it does not. */
  listed: { price: number | null } | null;
}

/** What is held, with whose turn it is and what this person can do about it. */
export interface HeldRow extends Hold {
  turn: Turn;
  /** What may be asked back. */
  claim: Claimed | null;
  /** May this person let it pass; null where it never passes, or is nothing for them. */
  accepts: Accepting | null;
}

export interface MatchPage {
  /** We wrote it for them. */
  ours: boolean;
  files: { id: number; name: string; size: number; by: string }[];
  head: InvoiceHead;
  lines: MatchLine[];
  taxes: TaxRow[];
  stair: Stair;
  held: HeldRow[];
  passes: PassRow[];
  claims: ClaimRow[];
  /** Of a credit note: what it met. */
  credits: ClaimRow[];
  /** What was booked, or what is booked if all that can be is asked back; null while it cannot be. */
  booking: { postings: Posting[]; made: boolean } | null;
  /** Goods of its lines that were set aside and not taken in. */
  aside: NotTakenIn[];
  /** Returns for which a claim may be made. */
  returns: { id: number; number: string; reason: string }[];
  early: Sum | null;
  orders: { id: OrderId; number: string; receipts: { id: number; number: string; day: Day }[] }[];
}

function heldRows(db: Db, sheet: InvoiceSheet, person: Person, day: Day): HeldRow[] {
  return sheet.open.map((h) => {
    const turn = TURN_OF[h.reason];
    const mine = may(person.roles, turn === "supplier" ? "enter invoices" : "accept prices");
    const accepts =
      h.reason === "quantity" || !mine
        ? null
        : turn === "supplier"
          ? ({ ok: true, says: "" } as const)
          : mayAccept(db, sheet, h, person.id, day);
    return { ...h, turn, claim: claimableOf(sheet, h), accepts };
  });
}

/** An invoice as its page shows it to a person. */
export function readMatchPage(db: Db, id: number, person: Person, day: Day): MatchPage | null {
  const sheet = readInvoice(db, id);
  if (!sheet) return null;
  const { head, lines, taxes, paper, ordered, passes } = sheet;
  const held = head.state === "Held" ? heldRows(db, sheet, person, day) : [];
  const claims = readClaims(db, id);
  const asked = [
    ...claims.filter((c) => c.state === "Open"),
    ...held.flatMap((h) => (h.claim ? [{ position: h.position, ...h.claim }] : [])),
  ];
  const booking =
    head.entry !== null
      ? { postings: postingsOf(db, head.entry), made: true }
      : head.state === "Held" && held.every((h) => h.claim || h.accepts?.ok)
        ? { postings: bookingOf(db, sheet, asked).postings, made: false }
        : null;
  const stair = stairOf(paper, ordered);
  return {
    head,
    files: filesOf(db, id),
    ours: sql<{ ours: number }>(db, "SELECT ours FROM invoice WHERE id = ?").get(id)!.ours === 1,
    taxes,
    stair,
    held,
    passes,
    claims,
    credits: head.kind === "credit note" ? readClaims(db).filter((c) => c.credit === id) : [],
    booking,
    aside: head.kind === "invoice" ? notTakenIn(db, id) : [],
    returns: head.entry === null ? [] : returnsToCredit(db, id),
    early: earlySum(head.total, paidBy(payTerms(db, head.supplier), head.day), head.currency),
    lines: lines.map((l) => {
      const o = l.orderLine === null ? undefined : ordered.get(l.orderLine);
      return {
        ...l,
        against: o
          ? {
              charge: o.kind === "charge",
              ordered: o.ordered,
              received: o.received,
              billable: billable(o),
              price: o.price,
            }
          : null,
        listed: listedOtherwise(db, l, head.day),
        difference: l.net - (o ? orderedNet(o, Math.min(l.quantity, billable(o)), head.currency) : 0),
      };
    }),
    orders: ordersOf(db, id),
  };
}

/** What the list says for a line of goods, where it says otherwise than they bill. */
function listedOtherwise(db: Db, l: InvoiceLineRow, day: Day): MatchLine["listed"] {
  const listed = l.orderLine === null ? null : listedPriceOf(db, l.orderLine, l.quantity, day);
  return listed && listed.inForce?.price !== l.price ? { price: listed.inForce?.price ?? null } : null;
}

/** The file that it came in, and what was kept with it. */
const filesOf = (db: Db, invoice: number): MatchPage["files"] =>
  sql<MatchPage["files"][number]>(
    db,
    `SELECT f.id, f.name, length(f.bytes) AS size, coalesce(p.name, 'the inbox') AS by FROM invoice_file f LEFT JOIN person p ON p.id = f.person
     WHERE f.invoice = ? ORDER BY f.id`,
  ).all(invoice);

/** The orders that it bills, with what was counted in of them. */
const ordersOf = (db: Db, invoice: number): MatchPage["orders"] =>
  sql<{ id: OrderId; number: string }>(
    db,
    `SELECT DISTINCT o.id, o.number FROM invoice_line l JOIN order_line d ON d.id = l.order_line JOIN purchase_order o ON o.id = d.purchase_order
     WHERE l.invoice = ? ORDER BY o.id`,
  )
    .all(invoice)
    .map((o) => ({
      ...o,
      receipts: sql<{ id: number; number: string; day: Day }>(
        db,
        "SELECT id, number, day FROM receipt WHERE purchase_order = ? ORDER BY id",
      ).all(o.id),
    }));
