import { z } from "zod";
import { parseDay } from "../../../core/calendar/day";
import type { OrderLineId } from "../../../core/ids";
import type { DecimalMark, Parsed } from "../../../core/numbers/decimal";
import { parsePrice } from "../../../core/numbers/money";
import { parseQuantity } from "../../../core/numbers/quantity";
import type { SaidOfLine } from "../../../core/suppliers/answer";
import type { AnswerFaults } from "../../../exchange/pdf/answer-words";
import { type Done, done, type Problem, refuseAll } from "../desk";
import { Id, text } from "../fields";

const figure = z.string().max(60, "This is too long for a number.").default("");

/** What is typed of a line, as it is typed; what is left empty is as ordered. */
export const SaidLineFields = z.object({
  line: Id,
  /** Nothing of it can be supplied. */
  cannot: z.boolean().default(false),
  parts: z
    .array(z.object({ quantity: figure, day: figure }))
    .max(12, "At most 12 parts.")
    .default([]),
  price: figure,
  instead: text(120).default(""),
  /** A charge that comes with the line, in the order's currency, and what it is for. */
  charge: figure,
  chargeFor: text(120).default(""),
  remark: text(300).default(""),
});
export type SaidLineText = z.input<typeof SaidLineFields>;

/** One line's words, read. */
export interface ReadLine {
  line: OrderLineId;
  said: SaidOfLine;
}

/**
 * Reads what was typed of lines, with the decimal mark of whoever typed it; every fault at its field, such as
 * "line.17.parts.0.day". A part without a quantity is all that is `open` of its line, where it is the only one.
 */
export function readTyped(
  lines: readonly z.output<typeof SaidLineFields>[],
  openOf: (line: OrderLineId) => number | null,
  mark: DecimalMark,
  faults: AnswerFaults,
): Done<ReadLine[]> {
  const problems: Problem[] = [];
  const read = lines.map((l): ReadLine => {
    const at = (field: string) => `line.${l.line}.${field}`;
    const no = (field: string, says: string) => {
      problems.push({ field: at(field), says });
      return null;
    };
    const figureOf = <N extends number>(field: string, typed: string, parsed: Parsed<N>): N | null =>
      parsed.ok ? parsed.value : no(field, /^\s*[-−]/.test(typed) ? faults.negative : faults.number);
    const given = l.cannot ? [] : l.parts.filter((p) => p.quantity.trim() !== "" || p.day.trim() !== "");
    const parts = given.flatMap((p, i) => {
      const whole = given.length === 1 && p.quantity.trim() === "" ? openOf(l.line) : null;
      const quantity =
        whole ?? figureOf(`parts.${i}.quantity`, p.quantity, parseQuantity(p.quantity, mark, "zero allowed"));
      const day = parseDay(p.day.trim()) ?? no(`parts.${i}.day`, faults.noDay);
      return quantity === null || day === null ? [] : [{ quantity, day }];
    });
    const amount = l.cannot || l.charge.trim() === "" ? null : figureOf("charge", l.charge, parsePrice(l.charge, mark));
    if (amount !== null && amount > 0 && l.chargeFor === "") no("chargeFor", faults.chargeFor);
    const price = l.price.trim() === "" || l.cannot ? null : figureOf("price", l.price, parsePrice(l.price, mark));
    return {
      line: l.line,
      said: {
        parts: l.cannot ? [] : given.length > 0 ? parts : null,
        price,
        discount: null,
        instead: l.cannot ? "" : l.instead,
        charge: amount ? { words: l.chargeFor, price: amount } : null,
        remark: l.remark,
      },
    };
  });
  return problems.length ? refuseAll(problems) : done(read);
}
