import { addDays, type Day, monthEnd } from "../calendar/day";
import { safe } from "../numbers/decimal";
import type { Posting } from "../stock/posting";

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
