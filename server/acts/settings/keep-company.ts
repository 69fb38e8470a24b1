import { z } from "zod";
import { Mail } from "../../auth/first-run";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once } from "../desk";
import { Percent, text } from "../fields";

/**
 * How figures and days may be written here: CLDR locales with a decimal point, as figures are typed everywhere in the house.
 * What goes to a supplier is written by their language.
 */
export const LOCALES = ["en-GB", "en-IE", "en-US", "en-AU", "en-NZ", "en-CA", "de-CH", "it-CH"] as const;

export const KeepCompany = z.object({
  name: text(120, 2, "What is the company called?"),
  address: text(300),
  taxNumber: text(40),
  mail: Mail,
  countOnOrder: z.enum(["yes", "no"], "Say yes or no."),
  countOutput: z.enum(["yes", "no"], "Say yes or no."),
  /** What suppliers have on our shelves counts as available. */
  countsTheirs: z.enum(["yes", "no"], "Say yes or no.").default("yes"),
  tieJobs: z.enum(["yes", "no"], "Say yes or no."),
  budgetBy: z.enum(["due", "ordered"], "By due date or by order date."),
  directOrders: z.enum(["yes", "no"], "Say yes or no."),
  holdingRate: Percent,
  /** How figures and days are written. */
  locale: z.enum(LOCALES, "Choose how figures and days are written.").optional(),
  country: z
    .string()
    .regex(/^([A-Z]{2})?$/, "A country has two letters, as in ISO 3166-1.")
    .optional(),
  timeZone: z
    .string()
    .refine((z) => z === "" || Intl.supportedValuesOf("timeZone").includes(z), "There is no such time zone.")
    .optional(),
  serviceLevel: Percent.refine((p) => p >= 5_000 && p <= 9_999, "From 50 to 99.99 percent."),
});

/** Changes what stands on every paper, and how availability is counted. */
export function keepCompany(desk: Desk, raw: unknown): Done<{ kept: true }> {
  const input = checked(KeepCompany, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep settings", (tx) => {
    sql(
      tx.db,
      "UPDATE company SET name = ?, address = ?, tax_number = ?, mail = ?, count_on_order = ?, count_output = ?, counts_theirs = ?, tie_jobs = ?, service_level = ?, holding_rate = ?, budget_by = ?, direct_orders = ?, locale = coalesce(?, locale), country = coalesce(?, country), time_zone = coalesce(?, time_zone)",
    ).run(
      v.name,
      v.address,
      v.taxNumber,
      v.mail,
      v.countOnOrder === "yes" ? 1 : 0,
      v.countOutput === "yes" ? 1 : 0,
      v.countsTheirs === "yes" ? 1 : 0,
      v.tieJobs === "yes" ? 1 : 0,
      v.serviceLevel,
      v.holdingRate,
      v.budgetBy,
      v.directOrders === "yes" ? 1 : 0,
      v.locale ?? null,
      v.country ?? null,
      v.timeZone ?? null,
    );
    tx.record("company.kept", "company", v);
    return done({ kept: true });
  });
}
