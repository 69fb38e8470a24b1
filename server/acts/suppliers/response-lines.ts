import { parseDay } from "../../../core/calendar/day";
import type { OrderId, OrderLineId } from "../../../core/ids";
import { Big, clip } from "../../../core/numbers/decimal";
import { listedPrice, netPrice, parsePrice, type UnitPrice, unitPrice } from "../../../core/numbers/money";
import { parseQuantity } from "../../../core/numbers/quantity";
import { unitCode } from "../../../core/numbers/units";
import { openOfAll } from "../../../core/orders/schedule";
import { type AddedCharge, partsLeft, type SaidPart, standingParts } from "../../../core/suppliers/answer";
import type { Responded, RespondedLine } from "../../../exchange/ubl/order-response";
import { type Db, sql } from "../../db/open";
import { readSchedule } from "../../queries/orders/schedule";
import { type Done, done, type Problem, refuse } from "../desk";
import type { ReadLine } from "./answer-fields";
import { HOUSE_FAULTS } from "./fault-words";

interface OurLine {
  id: OrderLineId;
  position: number;
  unit: string;
  price: number | null;
  standing: number;
  discount: number;
  quantity: number;
  came: number;
  open: 0 | 1;
}

/** What a response says of the lines of one of our orders; every fault with the line that it is in. */
export function linesOf(db: Db, order: OrderId, r: Responded, currency: string, problems: Problem[]): ReadLine[] {
  const ours = sql<OurLine>(
    db,
    `SELECT id, position, unit, price, standing_discount AS standing, discount, quantity, received + closed_short AS came, open
     FROM order_line WHERE purchase_order = ? ORDER BY position`,
  ).all(order);
  const open = ours.filter((l) => l.open === 1);
  const nothing = { price: null, discount: null, instead: "", charge: null, remark: "" };
  if (r.whole === "rejected") return open.map((l) => ({ line: l.id, said: { ...nothing, parts: [] } }));
  const read = r.lines.flatMap((line): ReadLine[] => {
    const of = ours.find((l) => String(l.position) === line.line);
    const no = (says: string): ReadLine[] => {
      problems.push({ field: `line ${line.line}`, says: `Line ${clip(line.line)}: ${says}` });
      return [];
    };
    if (!of) return no("there is no such line on this order.");
    // Delivered already: nothing more is said of it.
    if (line.status === "42") return [];
    if (line.status === "7" || line.status === "Cancelled")
      return [{ line: of.id, said: { ...nothing, parts: [], remark: line.note.slice(0, 300) } }];
    const price = priceOf(line, of, currency);
    if (!price.ok) return no(price.problems[0]!.says);
    const parts = partsOf(db, line, of);
    if (!parts.ok) return no(parts.problems[0]!.says);
    const charge = chargeOf(line.charge, currency);
    if (!charge.ok) return no(charge.problems[0]!.says);
    return [
      {
        line: of.id,
        said: {
          parts: parts.value,
          price: price.value,
          discount: null,
          instead: (line.instead ?? "").slice(0, 120),
          charge: charge.value,
          remark: line.note.slice(0, 300),
        },
      },
    ];
  });
  const all = chargeOf(r.charge, currency);
  if (!all.ok) problems.push({ field: "", says: `The whole answer: ${all.problems[0]!.says}` });
  const named = new Set(r.lines.map((l) => l.line));
  const rest = r.whole === "accepted" ? open.filter((l) => !named.has(String(l.position))) : [];
  const lines = [...read, ...rest.map((l): ReadLine => ({ line: l.id, said: { ...nothing, parts: null } }))];
  return all.ok && all.value ? withCharge(lines, all.value, problems) : lines;
}

/** A charge on all of it comes with the first line that comes at all. */
function withCharge(lines: readonly ReadLine[], charge: AddedCharge, problems: Problem[]): ReadLine[] {
  const first = lines.find((l) => l.said.parts?.length !== 0 && l.said.charge === null);
  if (!first) problems.push({ field: "", says: "The whole answer: its charge comes with no line." });
  return lines.map((l) => (l === first ? { ...l, said: { ...l.said, charge } } : l));
}

/** As XML Schema writes decimals: no grouping, a point. */
const PLAIN = /^[+-]?(\d+(\.\d*)?|\.\d+)$/;

/** The price that they name is net of discounts, as in our own orders: the one that gives it, null where it is ours. */
function priceOf(line: RespondedLine, of: OurLine, currency: string): Done<UnitPrice | null> {
  if (!line.price) return done(null);
  const { amount, per, currency: theirs } = line.price;
  if (theirs !== null && theirs !== currency)
    return refuse("", `its price is in ${clip(theirs)}, the order in ${currency}.`);
  if (!PLAIN.test(amount) || (per !== null && !PLAIN.test(per))) return refuse("", "its price is not a number.");
  const base = new Big(per ?? "1");
  const net = new Big(amount);
  if (net.lt(0)) return refuse("", HOUSE_FAULTS.negative);
  if (base.lte(0)) return refuse("", "its price is for nothing.");
  const one = net.div(base);
  const ours = of.price === null ? null : netPrice(unitPrice(of.price), of.standing, of.discount);
  if (ours?.round(6).eq(one.round(6))) return done(null);
  const listed = listedPrice(one, of.standing, of.discount);
  return listed.ok ? done(listed.value) : refuse("", listed.says);
}

/** A charge that they add; it says what it is for. */
function chargeOf(charge: RespondedLine["charge"], currency: string): Done<AddedCharge | null> {
  if (!charge) return done(null);
  if (charge.currency !== null && charge.currency !== currency)
    return refuse("", `its charge is in ${clip(charge.currency)}, the order in ${currency}.`);
  const price = PLAIN.test(charge.amount) ? parsePrice(charge.amount.replace(/^\+/, "")) : null;
  if (!price?.ok) return refuse("", "its charge is not a number of nought or more.");
  if (price.value === 0) return done(null);
  return charge.words
    ? done({ words: charge.words.slice(0, 120), price: price.value })
    : refuse("", "its charge does not say what it is for.");
}

/** What is still to come by what they say: null where that is as it stands. */
function partsOf(db: Db, line: RespondedLine, of: OurLine): Done<SaidPart[] | null> {
  const unit = unitCode(of.unit);
  const quantityOf = (quantity: string, theirs: string | null): Done<number> => {
    if (theirs !== null && unitCode(theirs) !== unit)
      return refuse("", `it speaks of ${clip(theirs)}, the order of ${unit}.`);
    if (!PLAIN.test(quantity)) return refuse("", `“${clip(quantity)}” is not a number.`);
    const parsed = parseQuantity(quantity.replace(/^\+/, ""), ".", "zero allowed");
    return parsed.ok ? done(parsed.value) : refuse("", parsed.says);
  };
  const schedule = readSchedule(db, of.id);
  const whole = line.quantity === null ? null : quantityOf(line.quantity, line.unit);
  if (whole && !whole.ok) return whole;
  const left = whole ? whole.value - of.came : openOfAll(schedule);
  const parts: SaidPart[] = [];
  for (const d of line.deliveries) {
    const day = d.day === null ? null : parseDay(d.day);
    if (day === null) return refuse("", d.day === null ? "a delivery has no day." : `${clip(d.day)} is no day.`);
    const quantity = d.quantity === null ? done(left) : quantityOf(d.quantity, d.unit);
    if (!quantity.ok) return quantity;
    if (d.quantity === null && line.deliveries.length > 1) return refuse("", "one of its deliveries has no quantity.");
    parts.push({ quantity: quantity.value, day });
  }
  if (parts.length > 12) return refuse("", "at most 12 deliveries.");
  if (parts.length > 0) {
    const sum = parts.reduce((a, p) => a + p.quantity, 0);
    if (!whole || sum === left) return done(parts);
    // All deliveries of the line, what came already among them.
    if (sum === whole.value) return done(partsLeft(parts, of.came));
    return refuse("", "its deliveries do not add up to its quantity.");
  }
  if (!whole) return done(null);
  if (left <= 0)
    return of.came > 0 && left === 0 ? done(null) : left === 0 ? done([]) : refuse("", "more has come than they say.");
  return done(resized(standingParts(schedule), left));
}

/** So much in all on the days as they stand: less leaves out the last, more is added to it. */
function resized(parts: readonly SaidPart[], to: number): SaidPart[] | null {
  const all = parts.reduce((a, p) => a + p.quantity, 0);
  if (to === all) return null;
  let left = to;
  const kept = parts.flatMap((p, i) => {
    const quantity = i === parts.length - 1 ? left : Math.min(left, p.quantity);
    left -= quantity;
    return quantity > 0 ? [{ ...p, quantity }] : [];
  });
  return kept;
}
