import type { Day } from "../../../core/calendar/day";
import type { OrderLineId } from "../../../core/ids";
import type { Parsed } from "../../../core/numbers/decimal";
import {
  factorOf,
  ONE,
  type PurchaseQty,
  parseQuantity,
  purchase,
  quantityText,
  stock,
  toPurchase,
} from "../../../core/numbers/quantity";
import {
  type ControlTotals,
  countedTotals,
  totalDifferences as differencesOf,
} from "../../../core/receiving/control-totals";
import { type CountedLine, type Judgement, judge, judgeWords, openToCount } from "../../../core/receiving/count";
import type { LotRule } from "../../../core/receiving/lot";
import { faultyWithin } from "../../../core/receiving/set-aside";
import { gtinForms, isMisread, type Scanned } from "../../../exchange/gs1/scan";

/** A line of a load, as far as counting goes by it; quantities in purchase units. */
export interface CountableLine {
  line: OrderLineId;
  name: string;
  code: string | null;
  theirCode: string;
  gtin: string | null;
  unitCode: string;
  factor: number;
  bin: string;
  counted: CountedLine;
  lots: LotRule | null;
  weighed: boolean;
  weight: number | null;
}

/** A part of a line's count as it is typed: all of it, or one lot of it. */
export interface PartTexts {
  count: string;
  lot: string;
  expires: string;
  /** Of it, what is not good, and why. */
  faulty: string;
  fault: string;
  note: string;
  /** The bin into which it was put at once. */
  bin: string;
  /** Kilograms as weighed. */
  weight: string;
}
export const NO_PART: PartTexts = {
  count: "",
  lot: "",
  expires: "",
  faulty: "",
  fault: "",
  note: "",
  bin: "",
  weight: "",
};

/** What was counted of a load and not taken in yet, as typed. */
export interface CountTexts {
  parts: Readonly<Record<number, readonly PartTexts[]>>;
  /** The delivery note: its number, and what it says came in all. */
  note: string;
  said: { lines: string; pieces: string; weight: string };
  difference: string;
}
export const NOTHING_COUNTED: CountTexts = {
  parts: {},
  note: "",
  said: { lines: "", pieces: "", weight: "" },
  difference: "",
};

/** A count as the device kept it, also by an earlier version, which knew one figure for a line. */
export function keptCount(kept: Partial<CountTexts> & { counted?: Record<number, string> }): CountTexts {
  const before = Object.entries(kept.counted ?? {}).map(([line, count]) => [line, [{ ...NO_PART, count }]] as const);
  return { ...NOTHING_COUNTED, ...kept, parts: kept.parts ?? Object.fromEntries(before) };
}

/** A count as it is typed: nothing is nought. */
export const parseCount = (text = ""): Parsed<PurchaseQty> =>
  text.trim() === ""
    ? { ok: true, value: purchase(0) }
    : (parseQuantity(text, ".", "zero allowed") as Parsed<PurchaseQty>); // a count is in the unit of purchase

export const leftOfLine = (l: Pick<CountableLine, "counted">): number => openToCount(l.counted);

export const partsCounted = (count: CountTexts, line: OrderLineId): readonly PartTexts[] =>
  count.parts[line] ?? [NO_PART];

/** A line's parts taken together; null where one is no number. */
export interface LineCount {
  good: number;
  faulty: number;
  judged: Judgement;
}
export function countOfLine(l: CountableLine, parts: readonly PartTexts[], today: Day): LineCount | null {
  let good = 0;
  let faulty = 0;
  for (const p of parts) {
    const count = parseCount(p.count);
    const bad = parseCount(p.faulty);
    if (!count.ok || !bad.ok) return null;
    good += count.value;
    faulty += bad.value;
  }
  return { good, faulty, judged: judge(l.counted, good, today) };
}

/** How a line’s count compares with what is to come, in words: what is not good came, too. */
export function lineWords({ judged, faulty }: LineCount, unit: string, buyer: string): string {
  const missing = judged.left + judged.letOff;
  const { ordered } = faultyWithin(missing, faulty);
  if (ordered === 0) return judgeWords(judged, unit, buyer);
  const left = missing - ordered;
  return left > 0 ? judgeWords({ ...judged, left, letOff: 0 }, unit, buyer) : "all of it came";
}

/** What a sheet comes to as it stands. */
export type SheetCount<L extends CountableLine> = ReturnType<typeof countingOf<L>>;
export function countingOf<L extends CountableLine>(lines: readonly L[], count: CountTexts, today: Day) {
  const by = new Map(lines.map((l) => [l.line, countOfLine(l, partsCounted(count, l.line), today)]));
  const all = (l: L) => {
    const of = by.get(l.line);
    return of ? of.good + of.faulty : 0;
  };
  const some = lines.filter((l) => all(l) > 0);
  const waits = (l: L) => {
    const of = by.get(l.line);
    return of ? of.judged.heldOver + of.judged.heldEarly + of.faulty > 0 : false;
  };
  const totals = countedTotals(
    some.map((l) => ({
      counted: all(l),
      weight: weighedOf(l, partsCounted(count, l.line)) ?? (l.weight === null ? null : weightOf(all(l), l.weight)),
    })),
  );
  return {
    /** Lines of which something is to come. */
    open: lines.filter((l) => leftOfLine(l) > 0),
    /** Those that were counted. */
    some,
    wrong: [...by.values()].includes(null),
    /** Those of which something waits for somebody, or is not good. */
    waits: some.filter(waits),
    /** Where what was counted goes. */
    bins: [...new Set(some.map((l) => l.bin).filter(Boolean))],
    totals,
    /** Where the delivery note says otherwise. */
    off: totalDifferences(count.said, totals),
  };
}

/** What a line weighs as its parts were weighed; null where one was not. */
function weighedOf(l: CountableLine, parts: readonly PartTexts[]): number | null {
  if (!l.weighed) return null;
  let sum = 0;
  for (const p of parts) {
    const typed = parseCount(p.weight);
    if (!typed.ok || (p.weight ?? "").trim() === "") return null;
    sum += typed.value;
  }
  return sum;
}

/** Kilograms of so many, rounded down: it is only shown while one counts, and worked out again when it is taken in. */
const weightOf = (counted: number, one: number): number => Number((BigInt(counted) * BigInt(one)) / BigInt(ONE));

function totalDifferences(said: CountTexts["said"], totals: ControlTotals): string[] {
  const typed = (text: string, unit: number) => {
    const parsed = parseCount(text);
    return text.trim() === "" || !parsed.ok ? null : parsed.value / unit;
  };
  return differencesOf(
    { lines: typed(said.lines, ONE), pieces: typed(said.pieces, 1), weight: typed(said.weight, 1) },
    totals,
  );
}

/** The count of a line, one step up or down; never below nought. */
export function stepped(text: string | undefined, by: number): string {
  const now = parseCount(text);
  return quantityText(Math.max(0, (now.ok ? now.value : 0) + by));
}

/** A count with one part of a line changed. */
export function withPart(count: CountTexts, line: OrderLineId, index: number, part: Partial<PartTexts>): CountTexts {
  const parts = [...partsCounted(count, line)];
  parts[index] = { ...(parts[index] ?? NO_PART), ...part };
  return { ...count, parts: { ...count.parts, [line]: parts } };
}

/** A count without one part of a line; the first of a line is emptied instead. */
export function withoutPart(count: CountTexts, line: OrderLineId, index: number): CountTexts {
  const parts = partsCounted(count, line).filter((_, i) => i !== index);
  return { ...count, parts: { ...count.parts, [line]: parts.length ? parts : [NO_PART] } };
}

/** All that is to come, as ordered: what was counted of a line already stays, and its last part takes the rest. */
export function withRest(count: CountTexts, open: readonly CountableLine[]): CountTexts {
  let next = count;
  for (const l of open) {
    const parts = partsCounted(next, l.line);
    const values = parts.map((p) => [parseCount(p.count), parseCount(p.faulty)] as const);
    if (values.some(([c, f]) => !c.ok || !f.ok)) continue;
    const sum = values.reduce((a, [c, f]) => a + (c.ok ? c.value : 0) + (f.ok ? f.value : 0), 0);
    const rest = leftOfLine(l) - sum;
    if (rest > 0) next = withPart(next, l.line, parts.length - 1, { count: stepped(parts.at(-1)!.count, rest) });
  }
  return next;
}

/** The lines that a scan means: by GTIN, by our code or theirs, else the open one whose name begins so. */
export function heardLines<L extends CountableLine>(lines: readonly L[], scanned: Scanned): L[] {
  if (scanned.gtin !== null) {
    const forms = gtinForms(scanned.gtin);
    return lines.filter((l) => l.gtin !== null && forms.includes(l.gtin));
  }
  const wanted = scanned.code.toLowerCase();
  if (!wanted) return [];
  const exact = lines.filter((l) => [l.code, l.theirCode, l.gtin].some((c) => c && c.toLowerCase() === wanted));
  if (exact.length) return exact;
  const named = lines.find((l) => leftOfLine(l) > 0 && l.name.toLowerCase().startsWith(wanted));
  return named ? [named] : [];
}

/** Of these lines the one that a scan counts for: the first, as they stand, of which more is to come than was counted. */
export function lineForScan<L extends CountableLine>(lines: readonly L[], count: CountTexts, today: Day): L | null {
  const wants = (l: L) => {
    const of = countOfLine(l, partsCounted(count, l.line), today);
    return of !== null && of.good + of.faulty < leftOfLine(l);
  };
  return lines.find(wants) ?? lines.find((l) => leftOfLine(l) > 0) ?? lines[0] ?? null;
}

/** What is said of a code that nobody knows `where`. */
export const strangerWords = (scanned: Scanned, where: string): string => {
  const code = scanned.gtin ?? scanned.pallet ?? scanned.code;
  return isMisread(code)
    ? `The check digit of ${code} does not fit: it was read wrongly.`
    : `“${code.slice(0, 40)}” is not ${where}.`;
};

/** How much a scan counts, in purchase units: what the code says, else one. */
function amountOf(l: CountableLine, scanned: Scanned): number {
  if (scanned.count !== null) return toPurchase(stock(scanned.count), factorOf(l.factor));
  if (scanned.weight !== null && l.unitCode === "KGM") return scanned.weight;
  return ONE;
}

/** The lot or serial number that a scan says, where the item is told apart by one. */
function scannedLot(l: CountableLine, scanned: Scanned): string {
  if (!l.lots) return "";
  return (l.lots.bySerial ? (scanned.serial ?? scanned.lot) : scanned.lot) ?? "";
}

/** A count with a scan of a line: in the part of its lot, or in a new one. Says what was heard, or why it is not counted. */
export function withScan(
  count: CountTexts,
  l: CountableLine,
  scanned: Scanned,
): { ok: true; count: CountTexts; index: number; says: string } | { ok: false; says: string } {
  const parts = partsCounted(count, l.line);
  const lot = scannedLot(l, scanned);
  const same = parts.findIndex((p) => p.lot.toLowerCase() === lot.toLowerCase());
  if (l.lots?.bySerial && lot && same >= 0 && parts[same]!.count.trim() !== "")
    return { ok: false, says: `Serial number ${lot} of ${l.name} is counted already.` };
  const free = parts.findIndex((p) => p.lot === "" && p.count.trim() === "");
  const index = lot === "" ? parts.length - 1 : same >= 0 ? same : free >= 0 ? free : parts.length;
  const amount = amountOf(l, scanned);
  const next = withPart(count, l.line, index, {
    count: stepped(parts[index]?.count, amount),
    ...(lot && same < 0 ? { lot } : {}),
    ...(l.lots && scanned.expires ? { expires: scanned.expires } : {}),
    ...(l.weighed && scanned.weight !== null ? { weight: stepped(parts[index]?.weight, scanned.weight) } : {}),
  });
  const much = amount === ONE ? "one more" : `${quantityText(amount)} more`;
  return { ok: true, count: next, index, says: `${l.name}: ${much}${lot ? `, ${lot}` : ""}` };
}

/** Lines that were counted before the load changed, as far as they are still to come. */
export const pastOf = <L extends CountableLine>(open: readonly L[], past: CountTexts | null): L[] =>
  past
    ? open.filter((l) =>
        partsCounted(past, l.line).some((p) => [p.count, p.faulty].some((t) => t.trim() !== "" && t.trim() !== "0")),
      )
    : [];

/** What a delivery note or an announcement says of lines: all of it is counted so; lines that it does not name stay. */
export function withNote(
  count: CountTexts,
  said: readonly { line: OrderLineId; count: string; lot: string; expires: string }[],
): CountTexts {
  const parts: Record<number, readonly PartTexts[]> = { ...count.parts };
  for (const line of new Set(said.map((s) => s.line)))
    parts[line] = said
      .filter((s) => s.line === line)
      .map(({ count: counted, lot, expires }) => ({ ...NO_PART, count: counted, lot, expires }));
  return { ...count, parts };
}

/** What stands on a pallet that was announced, counted beside what was counted before. */
export function withPallet(
  count: CountTexts,
  stands: readonly { line: OrderLineId; quantity: number; lot: string; expires: Day | null }[],
): CountTexts {
  let next = count;
  for (const s of stands) {
    const parts = partsCounted(next, s.line);
    const same = parts.findIndex((p) => p.lot.toLowerCase() === s.lot.toLowerCase());
    const free = parts.findIndex((p) => p.lot === "" && p.count.trim() === "");
    const index = same >= 0 ? same : free >= 0 ? free : parts.length;
    next = withPart(next, s.line, index, {
      count: stepped(parts[index]?.count, s.quantity),
      lot: s.lot,
      ...(s.expires ? { expires: s.expires } : {}),
    });
  }
  return next;
}

/** Does any part of a line have something typed in this field? */
export const typedIn = (count: CountTexts, line: OrderLineId, field: keyof PartTexts): boolean =>
  partsCounted(count, line).some((p) => (p[field] ?? "").trim() !== "");

/** What of a count is sent: each part of which something was typed. */
export const sentParts = (lines: readonly CountableLine[], count: CountTexts) =>
  lines.flatMap((l) =>
    partsCounted(count, l.line)
      .map((p, part) => ({ ...p, part, line: l.line }))
      .filter((p) => [p.count, p.faulty].some((t) => t.trim() !== "")),
  );
