import { addDays, type Day, toDay } from "../calendar/day";
import { safe } from "../numbers/decimal";
import type { Posting } from "../stock/posting";

/** The last day of the month that a day lies in. */
export function monthEnd(day: Day): Day {
  const [year, month] = day.split("-").map(Number) as [number, number];
  const next = month === 12 ? `${year + 1}-01-01` : `${year}-${String(month + 1).padStart(2, "0")}-01`;
  return addDays(toDay(next), -1);
}
export const monthStart = (day: Day): Day => toDay(`${day.slice(0, 7)}-01`);

/** The months that can be closed: those that are over, from the first that has entries or follows the last closed one. */
export function closable(from: Day | null, today: Day): Day[] {
  const ends: Day[] = [];
  if (from === null) return ends;
  for (let end = monthEnd(from); end < today; end = monthEnd(addDays(end, 1))) ends.push(end);
  return ends;
}

/** A charge of goods that came, of which nothing was billed by the end of a month. Home currency. */
export interface Unbilled {
  line: number;
  account: string | null;
  minor: number;
}

/** What was used and not billed by the end of a month is a cost of that month; turned round on the first day of the next. */
export function accrualPostings(lines: readonly Unbilled[]): Posting[] {
  const sum = lines.reduce((a, l) => safe(a + l.minor), 0);
  if (sum === 0) return [];
  return [
    ...lines.map((l) => ({ role: "expense" as const, account: l.account, minor: l.minor, line: l.line })),
    { role: "accrued" as const, account: null, minor: -sum, line: null },
  ].filter((p) => p.minor !== 0);
}
