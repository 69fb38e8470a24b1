import { z } from "zod";
import { parseMoney } from "../../../core/numbers/money";
import { LIMITS, LINE_KINDS, SPREADS } from "../../../core/orders/kinds";
import { type Db, sql } from "../../db/open";
import type { Problem } from "../desk";
import { CountedQuantity, DayField, Id, orNone, Percent, PriceOrNone, QuantityField, text } from "../fields";

/** What may be typed in a line of an order; what is left out stays as it is. */
export const LineFields = z
  .object({
    quantity: QuantityField,
    price: PriceOrNone,
    discount: Percent,
    required: DayField,
    words: text(300, 2, "Say what it is."),
    unit: z.string().max(3, "There is no such unit."),
    kind: z.enum(LINE_KINDS, "There is no such kind of line."),
    spread: z.enum(SPREADS, "By value, by weight, or as an expense."),
    taxRate: Percent,
    account: z.string().max(40),
    budget: orNone(Id),
    job: orNone(Id),
    note: text(500),
    ownNote: text(500),
    /** The store that it comes to, where it is another than the order's. */
    store: Id,
    bin: text(40),
    instalments: z.array(z.object({ quantity: QuantityField, required: DayField })).max(60, "At most 60 instalments."),
    limits: z.enum(LIMITS, "By quantity, by value, or both."),
    committedValue: z.string().max(30),
    least: CountedQuantity,
    /** Draws the line from a blanket line, or from none. */
    blanketLine: orNone(Id),
  })
  .partial();
export type TypedLine = z.output<typeof LineFields>;

/** What a line points at must be there: a sentence for each that is not. */
export function wrongPointers(db: Db, l: TypedLine, at: string): Problem[] {
  const there = (table: string, column: string, value: unknown) =>
    sql(db, `SELECT 1 FROM ${table} WHERE ${column} = ?`).get(value) !== undefined;
  const problems: Problem[] = [];
  if (l.account && !there("account", "code", l.account))
    problems.push({ field: `${at}.account`, says: "There is no such account." });
  if (l.budget && !there("budget", "id", l.budget))
    problems.push({ field: `${at}.budget`, says: "There is no such budget line." });
  if (l.job && !there("job", "id", l.job)) problems.push({ field: `${at}.job`, says: "There is no such job." });
  if (l.store && !there("store", "id", l.store))
    problems.push({ field: `${at}.store`, says: "There is no such store." });
  if (l.unit !== undefined && !there("unit", "code", l.unit))
    problems.push({ field: `${at}.unit`, says: "There is no such unit." });
  return problems;
}

/** An amount typed in a line, in the order's currency; null where the field is empty. */
export function typedAmount(
  given: string,
  currency: string,
): { ok: true; value: number | null } | { ok: false; says: string } {
  if (given.trim() === "") return { ok: true, value: null };
  const read = parseMoney(given, currency);
  if (!read.ok) return read;
  return read.value === 0 ? { ok: true, value: null } : read;
}
