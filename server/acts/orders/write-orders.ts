import { z } from "zod";
import type { OrderId } from "../../../core/ids";
import { RUNS } from "../../../core/needs/run";
import { parseQuantity } from "../../../core/numbers/quantity";
import { sql } from "../../db/open";
import { readChoices } from "../../queries/needs/needs";
import { needNow } from "../../queries/needs/one";
import { groundOf, withSource } from "../../queries/needs/plan";
import { readSource } from "../../queries/needs/positions";
import { checked, type Desk, type Done, done, once, type Problem, refuseAll, stale } from "../desk";
import { DayOrNone, Id, orNone, QuantityField } from "../fields";
import { type NewLine, servedByLines, writeLines } from "./write-lines";

const Pick = z.object({
  need: z.string().max(60),
  /** Purchase units; left out, it is what the person typed in Needs, or else what is suggested. */
  quantity: QuantityField.optional(),
  /** The sourcing record chosen instead of the preferred one; left out, it is the one chosen in Needs. */
  sourcing: orNone(Id).optional(),
});
export const WriteOrders = z.object({
  picks: z.array(Pick).min(1, "Tick at least one need.").max(2000, "At most 2,000 needs at once."),
  run: z.enum(RUNS, "There is no such rule.").default("usual"),
  asOf: DayOrNone.optional(),
});

/** Writes one draft order for each supplier and store of the chosen needs, and takes them out of the pool. */
export function writeOrders(desk: Desk, raw: unknown): Done<{ orders: OrderId[] }> {
  const input = checked(WriteOrders, raw);
  if (!input.ok) return input;
  const { picks, run, asOf } = input.value;
  const plan = { today: desk.day, hour: desk.hour, run, asOf: asOf && asOf > desk.day ? asOf : desk.day };
  return once(desk, "write orders", (tx) => {
    const g = groundOf(tx.db, plan, false);
    const problems: Problem[] = [];
    const groups = new Map<string, NewLine[]>();
    const seen = new Set<string>();
    const choices = readChoices(tx.db, desk.person.id);
    for (const { need: key, ...pick } of picks) {
      const found = needNow(tx.db, plan, key);
      if (!found || seen.has(key))
        return stale(
          "One of the ticked needs is no longer in the list: somebody ordered it, or it is not needed any more.",
        );
      seen.add(key);
      const choice = choices.get(key);
      const sourcing = pick.sourcing === undefined ? (choice?.sourcing ?? null) : pick.sourcing;
      const source = sourcing ? readSource(tx.db, sourcing) : null;
      if (sourcing && source?.item !== found.item) {
        problems.push({
          field: key,
          says: `The chosen supplier does not sell ${found.name} any more. Choose another.`,
        });
        continue;
      }
      const need = source ? withSource(g, found, source) : found;
      if (!need.supplier) {
        problems.push({ field: key, says: `${need.name} has no supplier yet.` });
        continue;
      }
      const typed = pick.quantity === undefined && choice?.quantity ? parseQuantity(choice.quantity) : null;
      if (typed && !typed.ok) {
        problems.push({ field: key, says: `${need.name}: ${typed.says}` });
        continue;
      }
      const quantity = pick.quantity ?? (typed?.ok ? typed.value : need.buy);
      const group = `${need.supplier.id}/${need.store}`;
      groups.set(group, [...(groups.get(group) ?? []), { need, quantity, serves: servedByLines(need) }]);
    }
    if (problems.length) return refuseAll(problems);
    const orders = [...groups.values()].map((lines) => writeLines(tx.db, desk, lines));
    const forget = sql(tx.db, "DELETE FROM need_choice WHERE need = ?");
    for (const key of seen) forget.run(key);
    tx.record("orders.written", `orders ${orders.join(", ")}`, { picks, run, asOf: plan.asOf });
    return done({ orders });
  });
}
