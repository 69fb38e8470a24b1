import type { Day } from "../../core/calendar/day";
import { type Db, sql } from "./open";

const SERIES = { order: "", requisition: "R", receipt: "D", transfer: "T" } as const;

/** The next number of a series, such as 26-1192 for orders. Taken inside the act's transaction, so it leaves no gap. */
export function nextNumber(db: Db, kind: keyof typeof SERIES, day: Day): string {
  const year = Number(day.slice(0, 4));
  const { last } = sql<{ last: number }>(
    db,
    "INSERT INTO series (kind, year, last) VALUES (?, ?, 1001) ON CONFLICT (kind, year) DO UPDATE SET last = last + 1 RETURNING last",
  ).get(kind, year)!;
  return `${SERIES[kind]}${day.slice(2, 4)}-${last}`;
}
