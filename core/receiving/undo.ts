import { ONE, quantityText } from "../numbers/quantity";
import { unitWords } from "../text";

/** Goods that a job holds on a shelf: they came on orders that were written for it, and were not issued yet. Stock units. */
export interface HeldByJob {
  demand: number;
  job: number;
  name: string;
  quantity: number;
}

/** What of a received line lies there still, and who holds of it. Stock units, ten-thousandths. */
export interface StillThere {
  /** Of the same lot, wherever in the store it lies. */
  there: number;
  /** Of the item in the store, of all lots. */
  onHand: number;
  /** What jobs hold of it once this line's own goods are taken back. */
  held: readonly HeldByJob[];
}

const heldOf = (held: readonly HeldByJob[]): number => held.reduce((a, h) => a + h.quantity, 0);

/** So much may be taken back, in stock units: what lies there, and nobody holds. */
export const freeToUndo = (s: StillThere): number => Math.max(0, Math.min(s.there, s.onHand - heldOf(s.held)));

/** The same in purchase units, no more than is left of the receipt; whole ones of what comes whole. */
export function mostToUndo(s: StillThere, line: { left: number; factor: number; whole: boolean }): number {
  const free = BigInt(freeToUndo(s)) * BigInt(ONE);
  const most = free / BigInt(line.factor);
  const units = Number(line.whole ? (most / BigInt(ONE)) * BigInt(ONE) : most);
  return Math.min(line.left, units);
}

/** Why so much cannot be undone; null where it can. */
export function undoRefusal(
  s: StillThere,
  line: { left: number; factor: number; whole: boolean; unit: string; stockUnit: string },
  asked: number,
): string | null {
  if (asked > line.left) return `Only ${quantityText(line.left)} of it is not undone yet.`;
  const most = mostToUndo(s, line);
  if (asked <= most) return null;
  const needed = Number((BigInt(asked) * BigInt(line.factor)) / BigInt(ONE));
  const can = most > 0 ? `${quantityText(most)} ${unitWords(most, line.unit)} can be` : "nothing of it can be undone";
  if (s.there < needed)
    return `${quantityText(s.there)} ${line.stockUnit} are there, ${quantityText(needed)} needed: ${can}.`;
  const who = s.held.map((h) => `${h.name} holds ${quantityText(h.quantity)} ${line.stockUnit}`).join(", ");
  return `${who}: ${can}, or free it first.`;
}
