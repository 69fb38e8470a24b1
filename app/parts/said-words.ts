import { clip } from "../../core/numbers/decimal";
import type { AnswerDifference, SaidPart } from "../../core/suppliers/answer";
import { unitWords } from "../../core/text";
import type { useWriting } from "../ui/locale";

type Writing = ReturnType<typeof useWriting>;
const days = (n: number) => (n === 1 ? "1 day" : `${n} days`);

/** One difference between what stands and what a supplier says, in a few words. */
export function differenceWords(d: AnswerDifference, w: Writing, unit: string): string {
  switch (d.kind) {
    case "cannot":
      return `cannot supply ${w.quantity(d.quantity)} ${unitWords(d.quantity, unit)}`;
    case "quantity":
      return `${w.quantity(d.from)} → ${w.quantity(d.to)} ${unitWords(d.to, unit)}`;
    case "days": {
      const upTo = d.parts > 1 ? "up to " : "";
      const when = d.by > 0 ? `${upTo}${days(d.by)} later` : `${upTo}${days(-d.by)} sooner`;
      if (d.parts > 1 && d.quantity >= d.of) return `in ${d.parts} parts, ${when}`;
      return d.quantity >= d.of ? when : `${w.quantity(d.quantity)} of ${w.quantity(d.of)} ${when}`;
    }
    case "price":
      return `${d.from === null ? "no price" : w.price(d.from)} → ${w.price(d.to)}`;
    case "discount":
      return `${w.percent(d.from)} → ${w.percent(d.to)} off`;
    case "instead":
      return `another item: ${clip(d.words)}`;
    case "charge":
      return `a charge of ${w.price(d.price)} for ${clip(d.words)}`;
  }
}

/** Parts of a delivery, each with its day. */
export const partsWords = (parts: readonly SaidPart[], w: Writing, unit: string): string =>
  parts.length === 0
    ? "nothing"
    : parts.map((p) => `${w.quantity(p.quantity)} ${unitWords(p.quantity, unit)} on ${w.day(p.day)}`).join(", ");
