import { type Day, daysBetween } from "../calendar/day";
import { quantityText } from "../numbers/quantity";
import { expectedOn, openOf, type Scheduled } from "../orders/schedule";
import { quantity, type Sum } from "../sums/sum";
import { unitWords } from "../text";
import { type DeliveryInForce, earlyStep, isComplete, keptAtMost, toleranceSteps, toleranceWords } from "./tolerance";

/** A line as a count is held against it. Quantities in purchase units, ten-thousandths. */
export interface CountedLine {
  /** Its schedule; what was let off within tolerance counts as closed short. */
  schedule: readonly Scheduled[];
  /** Of what is closed short, what was let off because enough had come. */
  letOff: number;
  /** Its unit comes whole. */
  whole: boolean;
  tolerance: DeliveryInForce;
}

/** What becomes of a count. The figures up to `refused` come to what was counted. */
export interface Judgement {
  counted: number;
  /** Taken in, of which `over` is beyond what was ordered. */
  taken: number;
  over: number;
  /** Waits for the buyer: beyond the tolerance, or too early. */
  heldOver: number;
  heldEarly: number;
  /** Goes back at once. */
  refusedOver: number;
  refusedEarly: number;
  /** The most days too early of what is held or refused, or was taken all the same. */
  daysEarly: number;
  /** Missing, and enough has come all the same. */
  letOff: number;
  /** Still to come after it. */
  left: number;
}

/** What is ordered of a line, less what was closed short for another reason than its tolerance. */
export const orderedOf = (l: Pick<CountedLine, "schedule" | "letOff">): number =>
  l.schedule.reduce((a, s) => a + s.quantity - s.closedShort, 0) + l.letOff;
export const receivedOfLine = (l: Pick<CountedLine, "schedule">): number =>
  l.schedule.reduce((a, s) => a + s.received, 0);

/** What may still be counted as ordered, also where it was let off. */
export const openToCount = (l: Pick<CountedLine, "schedule" | "letOff">): number =>
  Math.max(0, orderedOf(l) - receivedOfLine(l));

/**
 * Judges a count: the earliest instalment takes first, what is beyond the line is over, within tolerance or not; what is
 * too early for its instalment is taken, held or refused, and with it what is beyond it (domain-goods §11).
 */
export function judge(line: CountedLine, counted: number, today: Day): Judgement {
  const { tolerance: t } = line;
  const ordered = orderedOf(line);
  const before = receivedOfLine(line);
  const within = Math.min(counted, openToCount(line));
  const early = tooEarly(line, within, today);
  const beyond = counted - within;
  // What is taken though it is early, is no longer early.
  const act = t.early ?? "ask";
  const waits = act === "take" ? 0 : early.quantity;
  const withEarly = waits > 0 ? beyond : 0;
  const rest = beyond - withEarly;
  const room = t.beyond === "keep" ? rest : Math.max(0, keptAtMost(t, ordered, line.whole) - Math.max(ordered, before));
  const over = Math.min(rest, room);
  const excess = rest - over;
  const taken = within - waits + over;
  const missing = Math.max(0, ordered - before - taken);
  const enough = taken > 0 && waits === 0 && missing > 0 && isComplete(t, ordered, before + taken);
  return {
    counted,
    taken,
    over,
    heldOver: t.beyond === "refuse" ? 0 : excess,
    heldEarly: act === "ask" ? waits + withEarly : 0,
    refusedOver: t.beyond === "refuse" ? excess : 0,
    refusedEarly: act === "refuse" ? waits + withEarly : 0,
    daysEarly: early.days,
    letOff: enough ? missing : 0,
    left: enough ? 0 : missing,
  };
}

/** How much of what came is for instalments that are further off than may be, and by how many days at most. */
function tooEarly(line: CountedLine, came: number, today: Day): { quantity: number; days: number } {
  const { earlyDays } = line.tolerance;
  if (earlyDays === null) return { quantity: 0, days: 0 };
  const rows = [...line.schedule].sort((a, b) => (expectedOn(a) < expectedOn(b) ? -1 : 1));
  let left = came;
  let quantity = 0;
  let days = 0;
  for (const row of rows) {
    const part = Math.min(left, openOf(row));
    left -= part;
    const by = daysBetween(today, expectedOn(row));
    if (part > 0 && by > earlyDays) {
      quantity += part;
      days = Math.max(days, by);
    }
  }
  return { quantity, days };
}

/** A judgement in a word: by it the sheet colours, and by it more than a note is needed. */
export type Verdict = "not counted" | "as ordered" | "part" | "kept" | "closes" | "waits" | "goes back";

export function verdictOf(j: Judgement): Verdict {
  if (j.counted === 0) return "not counted";
  if (j.heldOver + j.heldEarly > 0) return "waits";
  if (j.refusedOver + j.refusedEarly > 0) return "goes back";
  if (j.over > 0) return "kept";
  if (j.letOff > 0) return "closes";
  return j.left > 0 ? "part" : "as ordered";
}

const many = (q: number, unit: string) => `${quantityText(q)} ${unitWords(q, unit)}`;
const byDays = (n: number) => (n === 1 ? "1 day" : `${n} days`);

/** What will happen, in the dock's words; `who` is whom it waits for. */
export function judgeWords(j: Judgement, unit: string, who: string): string {
  switch (verdictOf(j)) {
    case "not counted":
      return "not counted yet";
    case "as ordered":
      return "as ordered";
    case "part":
      return `${many(j.left, unit)} still to come`;
    case "kept":
      return `${quantityText(j.over)} over, kept`;
    case "closes":
      return `${quantityText(j.letOff)} short, line closes`;
    case "waits":
      return j.heldEarly > 0
        ? `${quantityText(j.heldEarly)} early by ${byDays(j.daysEarly)}, ask`
        : j.over > 0
          ? `${quantityText(j.heldOver)} beyond, waits for ${who}`
          : `${quantityText(j.heldOver)} over, waits for ${who}`;
    case "goes back":
      return j.refusedEarly > 0
        ? `${quantityText(j.refusedEarly)} early by ${byDays(j.daysEarly)}, goes back`
        : `${quantityText(j.refusedOver)} over, goes back`;
  }
}

/** By which tolerance it is so, in a quieter line; empty where none plays a part. */
export function judgeReason(j: Judgement, t: DeliveryInForce): string {
  const over = toleranceWords(t.overPercent, t.overQuantity);
  switch (verdictOf(j)) {
    case "kept":
      return over && t.beyond !== "keep" ? `over by ${over} is allowed` : "what is over is kept";
    case "closes":
      return `under by ${toleranceWords(t.underPercent, t.underQuantity)} counts as complete`;
    case "waits":
    case "goes back": {
      if (j.heldEarly + j.refusedEarly > 0) return `${byDays(t.earlyDays ?? 0)} early is allowed`;
      const aside =
        j.heldOver > 0 ? `set ${quantityText(j.heldOver)} aside` : `send ${quantityText(j.refusedOver)} back`;
      return `${over ? `over by ${over} is allowed` : "none over is allowed"}: keep ${quantityText(j.taken)}, ${aside}`;
    }
    default:
      return "";
  }
}

/** The sum behind a judgement: what may be kept, from when a line is complete, and where each value comes from. */
export function judgeSum(line: CountedLine, j: Judgement, unit: string): Sum {
  const ordered = orderedOf(line);
  const before = receivedOfLine(line);
  const most = keptAtMost(line.tolerance, ordered, line.whole);
  return {
    title: "What may be kept",
    steps: [
      ...toleranceSteps(line.tolerance, ordered, line.whole, unit),
      ...earlyStep(line.tolerance),
      { op: "", label: "counted", figure: quantity(j.counted, unit) },
      ...(before > 0 ? [{ op: "+" as const, label: "came before", figure: quantity(before, unit) }] : []),
      { op: "−", label: "may be kept", figure: quantity(most, unit) },
      {
        op: "=",
        label: j.counted + before > most ? "beyond" : "below what may be kept",
        figure: quantity(j.counted + before - most, unit),
      },
    ],
  };
}
