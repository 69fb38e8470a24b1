import { z } from "zod";
import type { SupplierId } from "../../../core/ids";
import { parseMoney } from "../../../core/numbers/money";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { Id, text } from "../fields";

const KeepTerms = z.object({
  supplier: Id,
  minimum: z.string().max(30),
  freight: z.string().max(30),
  freeFrom: z.string().max(30),
  blocked: text(200),
});

/** What a supplier asks of an order as a whole, in its own currency; and whether anything may be ordered there at all. */
export function keepTerms(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(KeepTerms, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const before = sql<{
      currency: string;
      order_minimum: number;
      freight: number;
      freight_free_from: number | null;
      blocked: string;
    }>(tx.db, "SELECT currency, order_minimum, freight, freight_free_from, blocked FROM supplier WHERE id = ?").get(
      v.supplier,
    );
    if (!before) return refuse("", "There is no such supplier.");
    const problems: Problem[] = [];
    const minor = (field: "minimum" | "freight" | "freeFrom") => {
      if (v[field].trim() === "") return 0;
      const read = parseMoney(v[field], before.currency);
      if (read.ok) return read.value;
      problems.push({ field, says: read.says });
      return 0;
    };
    const [minimum, freight, freeFrom] = [minor("minimum"), minor("freight"), minor("freeFrom")];
    if (freeFrom > 0 && freight === 0)
      problems.push({ field: "freight", says: "Say what the freight is where it is not free." });
    if (problems.length) return refuseAll(problems);
    sql(
      tx.db,
      "UPDATE supplier SET order_minimum = ?, freight = ?, freight_free_from = ?, blocked = ? WHERE id = ?",
    ).run(minimum, freight, freeFrom || null, v.blocked, v.supplier);
    tx.record("supplier.terms-changed", `supplier ${v.supplier}`, {
      before,
      after: { minimum, freight, freeFrom, blocked: v.blocked },
    });
    return done({ supplier: v.supplier });
  });
}
