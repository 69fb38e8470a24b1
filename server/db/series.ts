import type { Day } from "../../core/calendar/day";
import { type Db, sql } from "./open";

const SERIES = {
  order: "",
  requisition: "R",
  receipt: "D",
  transfer: "T",
  quote: "Q",
  return: "B",
  undo: "U",
  "stock paper": "M",
  "stock count": "C",
  "use order": "K",
  agreement: "A",
  refill: "F",
  "consigned delivery": "G",
  "use statement": "S",
  claim: "L",
  payment: "P",
  "pay list": "Y",
  journal: "J",
  "self-billed": "V",
} as const;

/** Do papers of another kind begin with these letters already? */
export const isTaken = (own: string) => own !== "" && (Object.values(SERIES) as string[]).includes(own);

/** The number that comes next, if nobody else takes it: for papers that are drawn before their transaction. */
export function comingNumber(db: Db, kind: keyof typeof SERIES, day: Day): string {
  const year = Number(day.slice(0, 4));
  const row = sql<{ last: number }>(db, "SELECT last FROM series WHERE kind = ? AND year = ?").get(kind, year);
  return `${SERIES[kind]}${day.slice(2, 4)}-${(row?.last ?? 1000) + 1}`;
}

/**
 * The next number of a series, such as 26-1192 for orders, or IR26-1004 in a buyer's own. Taken inside the act's
 * transaction, so it leaves no gap.
 */
export function nextNumber(db: Db, kind: keyof typeof SERIES, day: Day, own = ""): string {
  const year = Number(day.slice(0, 4));
  const { last } = sql<{ last: number }>(
    db,
    "INSERT INTO series (kind, year, last) VALUES (?, ?, 1001) ON CONFLICT (kind, year) DO UPDATE SET last = last + 1 RETURNING last",
  ).get(own ? `${kind}/${own}` : kind, year)!;
  return `${own || SERIES[kind]}${day.slice(2, 4)}-${last}`;
}
