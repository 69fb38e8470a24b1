import { z } from "zod";
import { sql } from "../../db/open";
import { Mail } from "../../people/first-run";
import { checked, type Desk, type Done, done, once } from "../desk";
import { text } from "../fields";

export const KeepCompany = z.object({
  name: text(120, 2, "What is the company called?"),
  address: text(300),
  taxNumber: text(40),
  mail: Mail,
  countOnOrder: z.enum(["yes", "no"], "Say yes or no."),
});

/** Changes what stands on every paper, and how availability is counted. */
export function keepCompany(desk: Desk, raw: unknown): Done<{ kept: true }> {
  const input = checked(KeepCompany, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep settings", (tx) => {
    sql(tx.db, "UPDATE company SET name = ?, address = ?, tax_number = ?, mail = ?, count_on_order = ?").run(
      v.name,
      v.address,
      v.taxNumber,
      v.mail,
      v.countOnOrder === "yes" ? 1 : 0,
    );
    tx.record("company.kept", "company", v);
    return done({ kept: true });
  });
}
