import type { Day } from "../calendar/day";
import { quantityText } from "../numbers/quantity";

/** A part of a line as it is asked for: how much, and when. Purchase units. */
export interface Instalment {
  quantity: number;
  required: Day;
}

/** A row of a line's schedule: asked for, promised, and what came of it. A line has one or more, which add up to it. */
export interface Scheduled extends Instalment {
  promised: Day | null;
  received: number;
  closedShort: number;
}

/** Instalments by their days; none where one would do; or a sentence where they are not what the line orders. */
export function planInstalments(
  parts: readonly Instalment[],
  ordered: number,
): { ok: true; plan: Instalment[] } | { ok: false; says: string } {
  if (parts.length < 2) return { ok: true, plan: [] };
  const plan = [...parts].sort((a, b) => (a.required < b.required ? -1 : a.required > b.required ? 1 : 0));
  const all = plan.reduce((a, p) => a + p.quantity, 0);
  if (all === ordered) return { ok: true, plan };
  const off = all - ordered;
  return {
    ok: false,
    says: `The instalments come to ${quantityText(all)}, which is ${quantityText(Math.abs(off))} ${off > 0 ? "more" : "less"} than the ${quantityText(ordered)} of the line.`,
  };
}

/** Instalments whose line is now ordered in another quantity: the last of them takes the difference. */
export function refitInstalments(
  plan: readonly Instalment[],
  ordered: number,
): { ok: true; plan: Instalment[] } | { ok: false; says: string } {
  const last = plan.at(-1);
  if (!last) return { ok: true, plan: [] };
  const before = plan.slice(0, -1).reduce((a, p) => a + p.quantity, 0);
  if (ordered <= before)
    return {
      ok: false,
      says: `The first ${plan.length - 1} loads come to ${quantityText(before)} already. Change them, too.`,
    };
  return { ok: true, plan: [...plan.slice(0, -1), { ...last, quantity: ordered - before }] };
}

/** When it is expected: the last promise, else the day asked for. */
export const expectedOn = (s: Scheduled): Day => s.promised ?? s.required;

/** What is still to come of it. */
export const openOf = (s: Scheduled): number => Math.max(0, s.quantity - s.received - s.closedShort);

/** What is still to come of all of them. */
export const openOfAll = (rows: readonly Scheduled[]): number => rows.reduce((a, s) => a + openOf(s), 0);

/**
 * How much of what came meets which row: the earliest due first; what is beyond all of them is the last one's. One
 * figure for each row, in the order given, which come to `came`.
 */
export function fillSchedule(rows: readonly Scheduled[], came: number): number[] {
  const by = rows
    .map((r, i) => ({ r, i }))
    .sort((a, b) => (expectedOn(a.r) < expectedOn(b.r) ? -1 : expectedOn(a.r) > expectedOn(b.r) ? 1 : a.i - b.i));
  const parts = rows.map(() => 0);
  let left = came;
  for (const { r, i } of by) {
    parts[i] = Math.min(left, openOf(r));
    left -= parts[i]!;
  }
  const last = by.at(-1);
  if (last) parts[last.i]! += left;
  return parts;
}

/**
 * How much of what was received is taken back from which row: the latest expected first, as the earliest took it first.
 * One figure for each row, in the order given, which come to `quantity`; no more than was received.
 */
export function emptySchedule(rows: readonly Scheduled[], quantity: number): number[] {
  const by = rows
    .map((r, i) => ({ r, i }))
    .sort((a, b) => (expectedOn(a.r) > expectedOn(b.r) ? -1 : expectedOn(a.r) < expectedOn(b.r) ? 1 : b.i - a.i));
  const parts = rows.map(() => 0);
  let left = quantity;
  for (const { r, i } of by) {
    parts[i] = Math.min(left, r.received);
    left -= parts[i]!;
  }
  return parts;
}
