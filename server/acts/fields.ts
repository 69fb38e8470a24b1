import { z } from "zod";
import { type Day, parseDay } from "../../core/calendar/day";
import type { IdOf } from "../../core/ids";
import { parseDecimal } from "../../core/numbers/decimal";
import { parsePrice, type UnitPrice } from "../../core/numbers/money";
import { parseQuantity } from "../../core/numbers/quantity";
import { plainText } from "../../core/text";
import { isRegion } from "../queries/calendars";

/** Fields that many forms share. Each refuses with a sentence a person can act on. */

export const Id = z.coerce
  .number("This is not one of ours.")
  .int("This is not one of ours.")
  .positive("This is not one of ours.");
export const Version = z.coerce.number("The page is out of date. Load it again.").int().nonnegative();

/** A field that may be left empty: null then, else what the schema makes of it, with its own sentences. */
export const orNone = <S extends z.ZodType>(schema: S) =>
  z.unknown().transform((value, ctx): z.output<S> | null => {
    if (value === "" || value === null || value === undefined) return null;
    const parsed = schema.safeParse(value);
    if (parsed.success) return parsed.data;
    for (const issue of parsed.error.issues) ctx.addIssue({ code: "custom", message: issue.message });
    return z.NEVER;
  });

/** Trimmed text without control characters, up to a length. */
export const text = (most: number, least = 0, missing = "Please fill this in.") =>
  z
    .string(missing)
    .max(most * 2, `At most ${most} characters.`)
    .transform(plainText)
    .pipe(z.string().min(least, missing).max(most, `At most ${most} characters.`));

const CODE = /^[\p{L}\p{N}][\p{L}\p{N}._/+-]{0,39}$/u;
/** A code that people type and scan: one word. `missing` says what is to have one. */
export const code = (missing: string) =>
  text(40, 1, missing).refine((c) => CODE.test(c), "A code has letters, digits and . _ / + - without spaces.");

const typed = <T>(read: (s: string) => { ok: true; value: T } | { ok: false; says: string }) =>
  z
    .string("A number is missing.")
    .max(60, "This number is too long.")
    .transform((s, ctx): T => {
      const parsed = read(s);
      if (parsed.ok) return parsed.value;
      ctx.addIssue({ code: "custom", message: parsed.says });
      return z.NEVER;
    });

export const QuantityField = typed((s) => parseQuantity(s));
export const QuantityOrNone = typed((s) => (s.trim() === "" ? { ok: true as const, value: null } : parseQuantity(s)));
export const CountedQuantity = typed((s) =>
  s.trim() === "" ? { ok: true as const, value: 0 } : parseQuantity(s, ".", "zero allowed"),
);
/** What was counted, nought too; null where nobody counted. */
export const CountedOrNone = typed((s) =>
  s.trim() === "" ? { ok: true as const, value: null } : parseQuantity(s, ".", "zero allowed"),
);
export const PriceOrNone = typed((s): { ok: true; value: UnitPrice | null } | { ok: false; says: string } =>
  s.trim() === "" ? { ok: true, value: null } : parsePrice(s),
);

/** A percentage from 0 to 100 with two places, as hundredths of a percent. */
export const Percent = typed((s) => {
  if (s.trim() === "") return { ok: true as const, value: 0 };
  const parsed = parseDecimal(s.replace("%", ""), 2);
  if (parsed.ok && (parsed.value < 0 || parsed.value > 10_000))
    return { ok: false as const, says: "Between 0 and 100 percent." };
  return parsed;
});

/** A percentage from 0 to 1,000 with two places, as hundredths of a percent: what may be over can be more than all of it. */
export const PercentOver = typed((s) => {
  const parsed = parseDecimal(s.replace("%", ""), 2);
  if (parsed.ok && (parsed.value < 0 || parsed.value > 100_000))
    return { ok: false as const, says: "Between 0 and 1,000 percent." };
  return parsed;
});

/** A day that exists. */
export const DayField = z.string("A date is missing.").transform((s, ctx): Day => {
  const day = parseDay(s.trim());
  if (day) return day;
  ctx.addIssue({ code: "custom", message: s.trim() ? "There is no such date." : "A date is missing." });
  return z.NEVER;
});
export const DayOrNone = orNone(DayField);

/** A box that is ticked or not; a form leaves out one that is not. */
export const TickBox = z
  .unknown()
  .optional()
  .transform((v) => v === true || v === "on" || v === "yes" || v === "1");
/** Whole numbers within bounds, as typed. */
export const Whole = (least: number, most: number) =>
  typed((s) => {
    const parsed = parseDecimal(s, 0);
    return parsed.ok && (parsed.value < least || parsed.value > most)
      ? { ok: false as const, says: `A whole number from ${least} to ${most}.` }
      : parsed;
  });
/** Weekdays as a list of 0 for Monday to 6 for Sunday; at least one. */
export const WeekdayList = z
  .union(
    [
      z.array(z.coerce.number().int().min(0).max(6)),
      z.coerce
        .number()
        .int()
        .min(0)
        .max(6)
        .transform((n) => [n]),
    ],
    "Choose at least one weekday.",
  )
  .transform((days) => days.reduce((a, d) => a | (1 << d), 0))
  .refine((days) => days > 0, "Choose at least one weekday: a calendar that never opens brings nothing.");
/** A region whose public holidays are kept; empty keeps none. */
export const Region = z
  .string()
  .transform((s) => s.trim().toUpperCase())
  .refine((s) => s === "" || isRegion(s), "We know no holidays of such a region.");

const idOf = <Kind extends string>() => Id.transform((id) => id as IdOf<Kind>); // checked to be an id by its form; that there is one, each act looks
export const OrderIdField = idOf<"order">();
