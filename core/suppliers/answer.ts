import { type Day, daysBetween } from "../calendar/day";
import type { BasisPoints, UnitPrice } from "../numbers/money";
import { expectedOn, openOf, openOfAll, type Scheduled } from "../orders/schedule";

/** A part of a line as its supplier says it: so much, on this day. Purchase units. */
export interface SaidPart {
  quantity: number;
  day: Day;
}

/** What a supplier says of one line. What is null or empty is as ordered. */
export interface SaidOfLine {
  /** All that is still to come, in its parts; none at all where they cannot supply it. */
  parts: readonly SaidPart[] | null;
  price: UnitPrice | null;
  discount: BasisPoints | null;
  /** Another item in its place, in their words. */
  instead: string;
  /** A charge that they add to the line: what for, and how much in the order's currency, millionths. */
  charge: AddedCharge | null;
  remark: string;
}
export interface AddedCharge {
  words: string;
  price: UnitPrice;
}

/** A line as it stands with its supplier. */
export interface StandingLine {
  schedule: readonly Scheduled[];
  price: number | null;
  discount: BasisPoints;
  /** The charges that stand on its order. */
  charges: readonly AddedCharge[];
}

/** Nobody means more than this many times what is open. */
const MOST_TIMES = 2;

const sum = (parts: readonly { quantity: number }[]) => parts.reduce((a, p) => a + p.quantity, 0);
const byDay = (a: { day: Day }, b: { day: Day }) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0);

/** What is still to come of a line, in its parts, the earliest first. */
export const standingParts = (schedule: readonly Scheduled[]): SaidPart[] =>
  schedule
    .map((s) => ({ quantity: openOf(s), day: expectedOn(s) }))
    .filter((p) => p.quantity > 0)
    .sort(byDay);

/** Why nobody can have meant something. */
export type SaidFault = "notOpen" | "nothing" | "passed" | "sameDay" | "tooMuch";

/** Why nobody can have meant this; null where it can be looked at. */
export function saidFault(line: Pick<StandingLine, "schedule">, said: SaidOfLine, today: Day): SaidFault | null {
  const open = openOfAll(line.schedule);
  if (open === 0) return "notOpen";
  // As it stands, on a day that has passed, is no answer either.
  if (!said.parts) return standingParts(line.schedule).some((p) => p.day < today) ? "passed" : null;
  if (said.parts.some((p) => p.quantity <= 0)) return "nothing";
  if (said.parts.some((p) => p.day < today)) return "passed";
  if (new Set(said.parts.map((p) => p.day)).size < said.parts.length) return "sameDay";
  return sum(said.parts) > MOST_TIMES * open ? "tooMuch" : null;
}

/** Do both mean the same deliveries at the same price? What is remarked beside counts for nothing. */
export const sameWords = (a: SaidOfLine, b: SaidOfLine): boolean => {
  const parts = (s: SaidOfLine) =>
    s.parts &&
    [...s.parts]
      .sort(byDay)
      .map((p) => `${p.quantity} ${p.day}`)
      .join();
  return (
    parts(a) === parts(b) &&
    a.price === b.price &&
    a.discount === b.discount &&
    a.instead === b.instead &&
    sameCharge(a.charge, b.charge)
  );
};

const sameCharge = (a: AddedCharge | null, b: AddedCharge | null) => a?.words === b?.words && a?.price === b?.price;

/** The charge that an answer adds; null where it adds none, or one that stands on the order already. */
export const newCharge = (line: Pick<StandingLine, "charges">, said: SaidOfLine): AddedCharge | null =>
  said.charge && said.parts?.length !== 0 && !line.charges.some((c) => sameCharge(c, said.charge)) ? said.charge : null;

/** How what is said differs from what stands. */
export type AnswerDifference =
  | { kind: "cannot"; quantity: number }
  | { kind: "quantity"; from: number; to: number }
  /** So much comes on other days: by at most so many days later, or sooner where below zero; `of` is all that is said. */
  | { kind: "days"; quantity: number; of: number; by: number; parts: number }
  | { kind: "price"; from: number | null; to: UnitPrice }
  | { kind: "discount"; from: BasisPoints; to: BasisPoints }
  | { kind: "instead"; words: string }
  | { kind: "charge"; words: string; price: UnitPrice };

/** Everything in which what is said differs from what stands; none where it is as ordered. */
export function answerDifferences(line: StandingLine, said: SaidOfLine): AnswerDifference[] {
  const found: AnswerDifference[] = [];
  const standing = standingParts(line.schedule);
  if (said.parts) {
    const [before, after] = [sum(standing), sum(said.parts)];
    if (after === 0) return [{ kind: "cannot", quantity: before }];
    if (before !== after) found.push({ kind: "quantity", from: before, to: after });
    const moved = movedDays(standing, [...said.parts].sort(byDay));
    if (moved.quantity > 0)
      found.push({ kind: "days", ...moved, of: Math.min(before, after), parts: said.parts.length });
  }
  if (said.price !== null && said.price !== line.price) found.push({ kind: "price", from: line.price, to: said.price });
  if (said.discount !== null && said.discount !== line.discount)
    found.push({ kind: "discount", from: line.discount, to: said.discount });
  if (said.instead) found.push({ kind: "instead", words: said.instead });
  const charge = newCharge(line, said);
  if (charge) found.push({ kind: "charge", ...charge });
  return found;
}

/** Unit for unit in the order of their days: how many come on another day, and by how many days at most. */
function movedDays(standing: readonly SaidPart[], said: readonly SaidPart[]): { quantity: number; by: number } {
  let quantity = 0;
  let by = 0;
  for (const { taken, from, to } of matched(standing, said)) {
    const days = daysBetween(from.day, to.day);
    if (days === 0) continue;
    quantity += taken;
    // Later counts before sooner: it is what somebody waits for.
    by = days > 0 ? Math.max(by, days) : by > 0 ? by : Math.min(by, days);
  }
  return { quantity, by };
}

/** Two lists of parts laid beside each other, the earliest first: each stretch that is one part in both. */
function* matched<A extends { quantity: number }, B extends { quantity: number }>(
  as: readonly A[],
  bs: readonly B[],
): Generator<{ taken: number; from: A; to: B }> {
  let [i, j] = [0, 0];
  let [left, room] = [as[0]?.quantity ?? 0, bs[0]?.quantity ?? 0];
  while (i < as.length && j < bs.length) {
    const taken = Math.min(left, room);
    if (taken > 0) yield { taken, from: as[i]!, to: bs[j]! };
    left -= taken;
    room -= taken;
    if (left === 0) left = as[++i]?.quantity ?? 0;
    if (room === 0) room = bs[++j]?.quantity ?? 0;
  }
}

/** What is left of what they said once so much has come since: the earliest of it. */
export function partsLeft(parts: readonly SaidPart[], came: number): SaidPart[] {
  let left = came;
  return [...parts].sort(byDay).flatMap((p) => {
    const part = Math.min(left, p.quantity);
    left -= part;
    return p.quantity > part ? [{ ...p, quantity: p.quantity - part }] : [];
  });
}

/** A row of a schedule after an answer was taken. */
export interface TakenRow extends Scheduled {
  /** The row that it was, by its place; null where it is new. */
  was: number | null;
}

/**
 * A line's schedule once what is said of its parts is taken. What came stays where it was promised; what is still to come
 * is promised anew, each unit under the day on which it was asked for. Fewer leaves out what was asked for last; more is
 * asked for with the last. What nobody supplies is closed, where nothing else would be left of the line.
 */
export function takenSchedule(schedule: readonly Scheduled[], parts: readonly SaidPart[]): TakenRow[] {
  const order = schedule
    .map((row, was) => ({ row, was }))
    .sort((a, b) => byDay({ day: expectedOn(a.row) }, { day: expectedOn(b.row) }) || a.was - b.was);
  const rows: TakenRow[] = [];
  const open: { quantity: number; row: Scheduled; was: number }[] = [];
  for (const { row, was } of order) {
    const left = openOf(row);
    if (left === 0) rows.push({ ...row, was });
    else {
      const came = row.quantity - left;
      if (came > 0) rows.push({ ...row, quantity: came, was });
      open.push({ quantity: left, row, was });
    }
  }
  const said = [...parts].sort(byDay);
  if (said.length === 0) return closedRows(rows, open);
  const extra = sum(said) - sum(open);
  const last = open.at(-1);
  const asked = last && extra > 0 ? [...open.slice(0, -1), { ...last, quantity: last.quantity + extra }] : open;
  const kept = new Set(rows.map((r) => r.was));
  for (const { taken, from, to } of matched(asked, said)) {
    const was = kept.has(from.was) ? null : from.was;
    kept.add(from.was);
    rows.push({ quantity: taken, required: from.row.required, promised: to.day, received: 0, closedShort: 0, was });
  }
  return rows;
}

/** Nothing more comes: what is open is closed in the rows that it stands in. */
const closedRows = (
  came: readonly TakenRow[],
  open: readonly { quantity: number; row: Scheduled; was: number }[],
): TakenRow[] => {
  const kept = new Set(came.map((r) => r.was));
  return [
    ...came.map((r) => {
      const rest = open.find((o) => o.was === r.was);
      return rest ? { ...rest.row, was: r.was, closedShort: rest.row.closedShort + rest.quantity } : r;
    }),
    ...open
      .filter((o) => !kept.has(o.was))
      .map(({ row, was, quantity }) => ({ ...row, was, closedShort: row.closedShort + quantity })),
  ];
};
