import type { JobId, OrderId } from "../../../core/ids";
import { may } from "../../../core/people/roles";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { usualPlan } from "../../queries/needs/need";
import { needNow } from "../../queries/needs/one";
import type { Desk } from "../desk";
import { newDraft } from "../orders/order-for";
import { addressTo } from "../orders/start-order";
import { type NewLine, servedByLines, writeLines } from "../orders/write-lines";
import { tieAll } from "./tie-demand";

/**
 * A job or customer order that is marked for direct delivery writes its orders by itself, where the company wants it so
 * and whoever keeps the job may write orders: what it lacks is tied to it, and goes onto the open draft for its supplier,
 * or onto a new one. Call inside the act. Returns the drafts that took something.
 */
export function writeDirectOrders(db: Db, desk: Desk, job: JobId): number[] {
  const { direct } = sql<{ direct: number }>(db, "SELECT direct FROM job WHERE id = ?").get(job)!;
  if (!direct || !theCompany(db).directOrders || !may(desk.person.roles, "write orders")) return [];
  tieAll(db, desk, job);
  const plan = usualPlan(desk.day, desk.hour);
  const groups = new Map<string, NewLine[]>();
  const wanting = sql<{ id: number }>(
    db,
    `SELECT d.id FROM job_demand d WHERE d.job = ? AND d.issued < d.quantity
       AND d.tied > (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.job_demand = d.id) ORDER BY d.id`,
  ).all(job);
  for (const { id } of wanting) {
    const need = needNow(db, plan, `j:${id}`);
    if (!need?.supplier) continue; // it stays among the needs, where somebody finds it a supplier
    const key = `${need.supplier.id}/${need.store}`;
    groups.set(key, [...(groups.get(key) ?? []), { need, quantity: need.buy, serves: servedByLines(need) }]);
  }
  return [...groups.values()].map((lines) => {
    const { supplier, store, neededOn } = lines[0]!.need;
    const open = sql<{ id: OrderId }>(
      db,
      "SELECT id FROM purchase_order WHERE stage = 'draft' AND kind = 'direct' AND job = ? AND supplier = ? AND store = ? ORDER BY id LIMIT 1",
    ).get(job, supplier!.id, store);
    const order = open?.id ?? newDraft(db, desk, supplier!, store, neededOn);
    if (!open) sql(db, "UPDATE purchase_order SET kind = 'direct' WHERE id = ?").run(order);
    addressTo(db, order, job);
    return writeLines(db, desk, lines, order);
  });
}
