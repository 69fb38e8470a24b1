import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { OrderLineId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { factorOf, ONE, purchase, quantityText, toStock } from "../../../core/numbers/quantity";
import { type ControlTotals, countedTotals } from "../../../core/receiving/control-totals";
import { type CountedLine, judge } from "../../../core/receiving/count";
import { type LotRule, usualExpiry } from "../../../core/receiving/lot";
import { shareJudgement } from "../../../core/receiving/parts";
import { FAULTS, faultyWithin } from "../../../core/receiving/set-aside";
import { type Db, sql } from "../../db/open";
import type { OrderLine } from "../../queries/orders/order";
import { readCountedLines } from "../../queries/receiving/counted-lines";
import { lotRules } from "../../queries/receiving/lot-rules";
import { type Desk, type Done, done, type Problem, refuse, refuseAll } from "../desk";
import { CountedQuantity, DayField, Id, orNone, QuantityOrNone, text } from "../fields";
import { binToPut } from "../stock/bins";
import { lotProblems } from "./counted-lots";
import type { PutAside, TakenIn } from "./receive";

/** A part of a line as it was counted: all of it, or one lot of it. Units of purchase. */
export const CountedPart = z.object({
  line: Id,
  /** What is good. */
  counted: CountedQuantity.default(0),
  /** What is not, and why. */
  faulty: CountedQuantity.default(0),
  fault: orNone(z.enum(FAULTS, "Say what is wrong with it.")).default(null),
  /** As it stands on the goods: a lot, or a serial number. Without one the receipt names it. */
  lot: text(40).default(""),
  expires: orNone(DayField).default(null),
  /** Kilograms as weighed, of what is good and what is not. */
  weight: QuantityOrNone.default(null),
  /** The bin into which it was put at once; empty: as the store does with what it counts in. */
  bin: text(20).default(""),
  note: text(300).default(""),
});
export type CountedPart = z.output<typeof CountedPart>;

/** What becomes of each part of a count; or what is wrong with it, at its field. */
export function judgeParts(
  db: Db,
  desk: Desk,
  all: readonly OrderLine[],
  parts: readonly CountedPart[],
): Done<{ came: TakenIn[]; aside: PutAside[] }> {
  const lines = new Map<number, OrderLine>(all.map((l) => [l.id, l]));
  const rules = lotRules(
    db,
    all.flatMap((l) => (l.item === null ? [] : [l.item])),
  );
  const ruleOf = (line: OrderLine) => (line.item === null ? undefined : rules.get(line.item));
  const weighed = weighedItems(db, all);
  const problems: Problem[] = [];
  const seen = new Set<string>();
  for (const [i, p] of parts.entries()) {
    const at = (field: string, says: string) => problems.push({ field: `lines.${i}.${field}`, says });
    const line = lines.get(p.line);
    if (!line || line.kind === "charge") {
      at("counted", "This line is not on this order.");
      continue;
    }
    const lot = `${p.line} ${p.lot.toLowerCase()} ${p.bin.toLowerCase()}`;
    if (seen.has(lot))
      at("counted", p.lot ? `Lot ${p.lot} stands here twice.` : "A line was counted twice on one sheet.");
    seen.add(lot);
    const bin = binToPut(db, line.store, p.bin, `lines.${i}.bin`);
    if (!bin.ok) problems.push(...bin.problems);
    if (p.faulty > 0 && !p.fault) at("fault", "Say what is wrong with it.");
    if (p.counted + p.faulty > 0 && p.weight === null && weighed.has(line.item ?? 0))
      at("weight", "Weigh it: how many kilograms are these?");
    const rule = ruleOf(line);
    if (rule) for (const wrong of lotProblems(db, desk.day, line, rule, p)) at(...wrong);
  }
  const by = new Map<number, CountedPart[]>();
  for (const p of parts) if (p.counted + p.faulty > 0) by.set(p.line, [...(by.get(p.line) ?? []), p]);
  for (const [id, of] of by) {
    const line = lines.get(id);
    const sum = of.reduce((a, p) => a + p.counted + p.faulty, 0);
    if (line && sum > MOST_TIMES * line.quantity)
      problems.push({
        field: `lines.${parts.indexOf(of[0]!)}.counted`,
        says: `${quantityText(sum)} of ${quantityText(line.quantity)} ordered is surely a slip.`,
      });
  }
  if (problems.length) return refuseAll(problems);
  if (by.size === 0) return refuse("", "Nothing has been counted yet.");
  const counted = readCountedLines(
    db,
    [...by.keys()].map((id) => lines.get(id)!.id),
  );
  const came: TakenIn[] = [];
  const aside: PutAside[] = [];
  for (const [id, of] of by) {
    const line = lines.get(id)!;
    const judged = judgeLine(line.id, counted.get(line.id)!, desk.day, ruleOf(line), of);
    came.push(...judged.came);
    aside.push(...judged.aside);
  }
  return done({ came, aside });
}

/** Items of these lines that are weighed when they come. */
const weighedItems = (db: Db, lines: readonly OrderLine[]): Set<number> =>
  new Set(
    sql<{ id: number }>(db, "SELECT id FROM item WHERE by_weight = 1 AND id IN (SELECT value FROM json_each(?))")
      .all(JSON.stringify(lines.map((l) => l.item)))
      .map((r) => r.id),
  );

/** What of a part's weight is taken in with so much of it, rounded. */
const shareOfWeight = (weight: number | null, taken: number, counted: number): number | null =>
  weight === null ? null : taken === counted ? weight : roundToInteger(new Big(weight).times(taken).div(counted));

/** More than so many times what was ordered is more than anybody can mean: a decimal point that slipped. */
const MOST_TIMES = 10;

/** What becomes of the parts of one line. */
function judgeLine(
  line: OrderLineId,
  as: CountedLine,
  today: Day,
  rule: LotRule | undefined,
  parts: readonly CountedPart[],
): { came: TakenIn[]; aside: PutAside[] } {
  const counts = parts.map((p) => p.counted);
  const judged = judge(
    as,
    counts.reduce((a, n) => a + n, 0),
    today,
  );
  // What is not good meets the order as far as the good leaves room.
  let room = judged.left + judged.letOff;
  const came: TakenIn[] = [];
  const aside: PutAside[] = [];
  for (const [i, j] of shareJudgement(judged, counts).entries()) {
    const p = parts[i]!;
    const lot = rule ? { code: p.lot, expires: p.expires ?? usualExpiry(rule, today) } : null;
    if (j.taken > 0)
      came.push({
        line,
        quantity: j.taken,
        over: j.over,
        lot,
        bin: p.bin,
        weight: shareOfWeight(p.weight, j.taken, p.counted + p.faulty),
      });
    const of = { line, daysEarly: 0, lot, note: p.note, ordered: false, turnedAway: false };
    const early = { ...of, why: "early" as const, daysEarly: judged.daysEarly };
    const over = { ...of, why: "over" as const };
    const fault = { ...of, why: p.fault ?? "damaged" };
    const within = faultyWithin(room, p.faulty);
    room -= within.ordered;
    aside.push(
      { ...early, quantity: j.heldEarly },
      { ...early, quantity: j.refusedEarly, turnedAway: true },
      { ...over, quantity: j.heldOver },
      { ...over, quantity: j.refusedOver, turnedAway: true },
      { ...fault, quantity: within.ordered, ordered: true },
      { ...fault, quantity: within.beyond },
    );
  }
  return { came, aside: aside.filter((a) => a.quantity > 0) };
}

/** What a count comes to in all. */
export function totalsOf(db: Db, lines: readonly OrderLine[], parts: readonly CountedPart[]): ControlTotals {
  const of = new Map<number, OrderLine>(lines.map((l) => [l.id, l]));
  const weigh = sql<{ weight: number | null }>(db, "SELECT weight FROM item WHERE id = ?");
  return countedTotals(
    parts.map((p) => {
      const line = of.get(p.line)!;
      const one = line.item === null ? null : (weigh.get(line.item)?.weight ?? null);
      const counted = p.counted + p.faulty;
      const reckoned = one === null ? null : weightOf(counted, line.factor, one);
      return { counted, weight: counted > 0 ? (p.weight ?? reckoned) : reckoned };
    }),
  );
}

/** Kilograms of so many purchase units, ten-thousandths, rounded. */
const weightOf = (counted: number, factor: number, one: number): number =>
  roundToInteger(new Big(toStock(purchase(counted), factorOf(factor))).times(one).div(ONE));
