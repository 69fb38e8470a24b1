import type { Day } from "../calendar/day";
import { type StockQty, stock } from "../numbers/quantity";
import type { Sum } from "../sums/sum";
import type { SaidPart } from "./answer";
import type { Effect } from "./effects";

/** What an answer leaves short, of all who wait longer for it than they did. */
export interface LeftShort {
  /** Stock units, and the name of their unit. */
  quantity: StockQty;
  unit: string;
  /** The first day on which somebody waits. */
  due: Day;
  /** The day on which the last of it comes; null where some comes from nowhere. */
  until: Day | null;
  /** Who waits: "job 2291, Marram". */
  who: readonly string[];
  /** Only what is bought for them helps them: what lies on a shelf is not given to them. */
  tied: boolean;
}

/** What is short where an answer is taken; null where nobody waits longer than before. */
export function shortageOf(effects: readonly Effect[]): LeftShort | null {
  const waits = effects.flatMap((e) => (e.kind === "waits" && e.after.quantity > e.before.quantity ? [e] : []));
  const [first] = waits;
  if (!first) return null;
  const days = waits.map((e) => e.after.until);
  return {
    quantity: stock(waits.reduce((a, e) => a + e.after.quantity - e.before.quantity, 0)),
    unit: first.claim.unit,
    due: waits.map((e) => e.claim.due).sort()[0]!,
    until: days.includes(null)
      ? null
      : days
          .filter((d) => d !== null)
          .sort()
          .at(-1)!,
    who: waits.map((e) => e.claim.label),
    tied: waits.some((e) => e.claim.pair === null),
  };
}

/** Parts with so much less of what comes after a day, at most; the latest goes first. Purchase units. */
export function cutLater(parts: readonly SaidPart[], due: Day, most: number): { parts: SaidPart[]; cut: number } {
  let left = most;
  const kept = [...parts]
    .sort((a, b) => (a.day < b.day ? 1 : -1))
    .flatMap((p) => {
      const less = p.day > due ? Math.min(left, p.quantity) : 0;
      left -= less;
      return p.quantity > less ? [{ ...p, quantity: p.quantity - less }] : [];
    });
  return { parts: kept.reverse(), cut: most - left };
}

/** Parts with so much of what comes after a day asked for on that day instead; the latest goes first. */
export function askedSooner(parts: readonly SaidPart[], due: Day, most: number): SaidPart[] {
  const { parts: rest, cut } = cutLater(parts, due, most);
  if (cut === 0) return [...parts];
  const same = rest.find((p) => p.day === due);
  const sooner = same
    ? rest.map((p) => (p === same ? { ...p, quantity: p.quantity + cut } : p))
    : [...rest, { quantity: cut, day: due }];
  return sooner.sort((a, b) => (a.day < b.day ? -1 : 1));
}

/** What to do about an answer: taking it as it is, or with something done about what it leaves short. */
export interface WayOut {
  /** "wait", "buy:17" (a sourcing record), "move:3" (a store), "use", "bench", "ask". */
  key: string;
  what: string;
  note: string;
  /** Home currency, minor units, beyond taking it and waiting; null where it cannot be known. */
  cost: number | null;
  /** When the last of what is short is here; null where nobody knows. */
  day: Day | null;
  /** Nobody waits for it; null where that is theirs to say. */
  inTime: boolean | null;
  /** How likely it is here by then, hundredths of a percent; null where too little is known. */
  chance: number | null;
  sum: Sum | null;
}

const rank = (w: WayOut) => (w.inTime === true ? 0 : w.inTime === null ? 1 : 2);

/** In time first, then what costs less, then what comes sooner; what nobody knows stands behind. */
export const byRank = (a: WayOut, b: WayOut): number =>
  rank(a) - rank(b) ||
  (a.cost ?? Number.MAX_SAFE_INTEGER) - (b.cost ?? Number.MAX_SAFE_INTEGER) ||
  before(a.day ?? "9", b.day ?? "9") ||
  before(a.key, b.key);

const before = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
