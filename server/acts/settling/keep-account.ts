import { z } from "zod";
import { parseDecimal } from "../../../core/numbers/decimal";
import { exponent } from "../../../core/numbers/money";
import { parseBic, parseIban } from "../../../core/settling/bank-account";
import { sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";

const checkedBy = (read: (text: string) => { ok: true; value: string } | { ok: false; says: string }) =>
  z
    .string()
    .max(60, "This is too long.")
    .default("")
    .transform((text, ctx) => {
      const found = read(text);
      if (found.ok) return found.value;
      ctx.addIssue({ code: "custom", message: found.says });
      return z.NEVER;
    });
const Account = { iban: checkedBy(parseIban), bic: checkedBy(parseBic) };

export const KeepSupplierAccount = z.object({ supplier: Id, ...Account });

/** The account that a supplier is paid to. Lists that are written keep the one they were written with. */
export function keepSupplierAccount(desk: Desk, raw: unknown): Done<{ iban: string }> {
  const input = checked(KeepSupplierAccount, raw);
  if (!input.ok) return input;
  const { supplier, iban, bic } = input.value;
  return once(desk, "keep bank accounts", (tx) => {
    const before = sql<{ iban: string; bic: string }>(tx.db, "SELECT iban, bic FROM supplier WHERE id = ?").get(
      supplier,
    );
    if (!before) return refuse("", "There is no such supplier.");
    sql(tx.db, "UPDATE supplier SET iban = ?, bic = ? WHERE id = ?").run(iban, bic, supplier);
    tx.record("supplier.account-changed", `supplier ${supplier}`, { before, after: { iban, bic } });
    return done({ iban });
  });
}

export const KeepOurAccount = z.object({ ...Account, releaseFrom: z.string().max(30).default("0") });

/** What we pay from, and from which sum on a pay list takes a second person. */
export function keepOurAccount(desk: Desk, raw: unknown): Done<{ iban: string }> {
  const input = checked(KeepOurAccount, raw);
  if (!input.ok) return input;
  const { iban, bic, releaseFrom } = input.value;
  return once(desk, "keep settings", (tx) => {
    const bound = parseDecimal(releaseFrom.trim() || "0", exponent(theCompany(tx.db).currency));
    if (!bound.ok) return refuse("releaseFrom", bound.says);
    if (bound.value < 0) return refuse("releaseFrom", "Nought, or an amount above it.");
    sql(tx.db, "UPDATE company SET iban = ?, bic = ?, release_from = ?").run(iban, bic, bound.value);
    tx.record("company.account-changed", "company", { iban, bic, releaseFrom: bound.value });
    return done({ iban });
  });
}
