import type { Day } from "../../../core/calendar/day";
import type { Scanned } from "../../../exchange/gs1/scan";
import type { OpenLine } from "../../../server/queries/receiving/open-count";
import {
  type CountTexts,
  countOfLine,
  heardLines,
  leftOfLine,
  lineForScan,
  NOTHING_COUNTED,
  partsCounted,
  sentParts,
  strangerWords,
  withScan,
} from "./counting";

/** What was counted of many orders and not taken in yet: the lines that scans found, and their counts. */
export interface OpenCount {
  lines: readonly OpenLine[];
  count: CountTexts;
}
export const NOTHING_OPEN: OpenCount = { lines: [], count: NOTHING_COUNTED };

/** Lines that were found are kept beside those that are known; what is known is kept as it is now. */
export function withLines(open: OpenCount, found: readonly OpenLine[]): OpenCount {
  const now = new Map(found.map((l) => [l.line, l]));
  const known = open.lines.map((l) => now.get(l.line) ?? l);
  const more = found.filter((l) => !open.lines.some((k) => k.line === l.line));
  return { ...open, lines: [...known, ...more] };
}

export type Heard =
  | { kind: "counted"; open: OpenCount; line: number; says: string }
  /** Ask the server which lines have it: none is known here, or all that are known are counted full. */
  | { kind: "ask" }
  /** Several items have this code: which one is it? */
  | { kind: "which"; lines: OpenLine[] }
  | { kind: "refused"; says: string };

/**
 * Counts a scan where its line is known. `asked`: the server was asked, and what it found is among the lines; then what is
 * beyond all of them counts on the first. `chosen` is the item that was meant where several have the code.
 */
export function heardOpen(
  open: OpenCount,
  scanned: Scanned,
  today: Day,
  { asked, chosen }: { asked: boolean; chosen?: number | null },
): Heard {
  const all = [...heardLines(open.lines, scanned)].sort((a, b) =>
    a.due < b.due ? -1 : a.due > b.due ? 1 : a.line - b.line,
  );
  const items = new Set(all.map((l) => l.item));
  const lines = chosen === undefined ? all : all.filter((l) => l.item === chosen);
  if (lines.length === 0)
    return asked ? { kind: "refused", says: strangerWords(scanned, "on any order that is to come") } : { kind: "ask" };
  if (items.size > 1 && chosen === undefined)
    return asked
      ? { kind: "which", lines: [...items].map((item) => all.find((l) => l.item === item)!) }
      : { kind: "ask" };
  const full = !lines.some((l) => hasRoom(open, l, today));
  if (full && !asked) return { kind: "ask" };
  const line = lineForScan(lines, open.count, today)!;
  const next = withScan(open.count, line, scanned);
  if (!next.ok) return { kind: "refused", says: next.says };
  return {
    kind: "counted",
    open: { ...open, count: next.count },
    line: line.line,
    says: `${next.says}, for ${line.number}`,
  };
}

function hasRoom(open: OpenCount, l: OpenLine, today: Day): boolean {
  const of = countOfLine(l, partsCounted(open.count, l.line), today);
  return of !== null && of.good + of.faulty < leftOfLine(l);
}

/** What changed of the lines that were counted, since they were found: each in a sentence. */
export function changedMeanwhile(before: OpenCount, now: readonly OpenLine[]): string[] {
  const by = new Map(now.map((l) => [l.line, l]));
  return before.lines.flatMap((l) => {
    if (!partsCounted(before.count, l.line).some((p) => p.count.trim() !== "" || p.faulty.trim() !== "")) return [];
    const n = by.get(l.line);
    if (!n) return [`${l.name} of ${l.number} is not to come any more.`];
    return leftOfLine(n) === leftOfLine(l) ? [] : [`${l.name} of ${l.number} was counted or changed by somebody else.`];
  });
}

/** What is sent: for each order its counted parts, in the version in which its lines are known. */
export function sentOrders(open: OpenCount) {
  const parts = sentParts(open.lines, open.count);
  const orders = [...new Set(parts.map((p) => open.lines.find((l) => l.line === p.line)!.order))];
  return orders.map((order) => {
    const of = open.lines.filter((l) => l.order === order);
    return {
      order,
      version: Math.min(...of.map((l) => l.version)),
      parts: parts.filter((p) => of.some((l) => l.line === p.line)),
    };
  });
}
