import type { OrderLineId } from "../../../core/ids";
import type { Parsed } from "../../../core/numbers/decimal";
import { ONE, type PurchaseQty, parseQuantity, purchase, quantityText } from "../../../core/numbers/quantity";
import { type Counted, judge } from "../../../core/receiving/count";

/** A line of a load, as far as counting goes by it; quantities in purchase units. */
export interface CountableLine {
  line: OrderLineId;
  name: string;
  code: string | null;
  theirCode: string;
  gtin: string | null;
  bin: string;
  ordered: number;
  received: number;
}

/** What was counted and not taken in yet, as typed, by line. */
export type CountedTexts = Readonly<Record<number, string>>;

/** A count as it is typed: nothing is nought. */
export const parseCount = (text = ""): Parsed<PurchaseQty> =>
  text.trim() === ""
    ? { ok: true, value: purchase(0) }
    : (parseQuantity(text, ".", "zero allowed") as Parsed<PurchaseQty>); // a count is in the unit of purchase

export const leftOfLine = (l: CountableLine): number => l.ordered - l.received;

/** How a line's count compares with what is to come; null where it is no number. */
export function judgeCount(l: CountableLine, text: string | undefined): Counted | null {
  const parsed = parseCount(text);
  return parsed.ok ? judge({ ordered: purchase(l.ordered), received: purchase(l.received) }, parsed.value) : null;
}

/** What a sheet comes to as it stands. */
export type SheetCount<L extends CountableLine> = ReturnType<typeof countingOf<L>>;
export function countingOf<L extends CountableLine>(lines: readonly L[], counted: CountedTexts) {
  const open = lines.filter((l) => leftOfLine(l) > 0);
  const some = open.filter((l) => {
    const parsed = parseCount(counted[l.line]);
    return parsed.ok && parsed.value > 0;
  });
  return {
    /** Lines of which something is to come. */
    open,
    /** Those that were counted. */
    some,
    wrong: open.some((l) => !parseCount(counted[l.line]).ok),
    over: some.filter((l) => judgeCount(l, counted[l.line])?.kind === "over"),
    /** Where what was counted goes. */
    bins: [...new Set(some.map((l) => l.bin).filter(Boolean))],
  };
}

/** The count of a line, one step up or down; never below nought. */
export function stepped(text: string | undefined, by: number): string {
  const now = parseCount(text);
  return quantityText(Math.max(0, (now.ok ? now.value : 0) + by * ONE));
}

/** All that is to come, as ordered. */
export const restOf = (open: readonly CountableLine[]): Record<number, string> =>
  Object.fromEntries(open.map((l) => [l.line, quantityText(leftOfLine(l))]));

/** The open line that a scanned or typed code means: ours, theirs or a GTIN, else the first whose name begins so. */
export function heardLine<L extends CountableLine>(open: readonly L[], code: string): L | null {
  const wanted = code.trim().toLowerCase();
  if (!wanted) return null;
  return (
    open.find((l) => [l.code, l.theirCode, l.gtin].some((c) => c && c.toLowerCase() === wanted)) ??
    open.find((l) => l.name.toLowerCase().startsWith(wanted)) ??
    null
  );
}

/** Lines that were counted before the load changed, as far as they are still to come. */
export const pastOf = <L extends CountableLine>(open: readonly L[], past: CountedTexts | undefined): L[] =>
  past ? open.filter((l) => (past[l.line] ?? "").trim() !== "" && past[l.line] !== "0") : [];
