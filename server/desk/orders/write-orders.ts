import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exponent, unitPrice } from "../../../core/numbers/money";
import { ONE, purchase } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../read/company";
import { computeNeeds, type Need } from "../../read/needs/needs";
import { checked, type Desk, type Done, done, once, type Problem, refuseAll, stale } from "../desk";
import { Quantity } from "../fields";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { priceOrder } from "./price-order";

const Pick = z.object({ need: z.string().max(60), quantity: Quantity });
export const WriteOrders = z.object({
  picks: z.array(Pick).min(1, "Tick at least one need.").max(2000, "At most 2,000 needs at once."),
});

/** Writes one draft order for each supplier and store of the chosen needs, and takes them out of the pool. */
export function writeOrders(desk: Desk, raw: unknown): Done<{ orders: number[] }> {
  const input = checked(WriteOrders, raw);
  if (!input.ok) return input;
  const { picks } = input.value;
  return once(desk, "write orders", (tx) => {
    const pool = new Map(computeNeeds(tx.db, desk.day).map((n) => [n.key, n]));
    const problems: Problem[] = [];
    const groups = new Map<string, { need: Need; quantity: number }[]>();
    for (const { need: key, quantity } of picks) {
      const need = pool.get(key);
      if (!need)
        return stale(
          "One of the ticked needs is no longer in the list: somebody ordered it, or it is not needed any more.",
        );
      if (!need.supplier) {
        problems.push({ field: key, says: `${need.name} has no supplier yet.` });
        continue;
      }
      const group = `${need.supplier.id}/${need.store}`;
      groups.set(group, [...(groups.get(group) ?? []), { need, quantity }]);
    }
    if (problems.length) return refuseAll(problems);
    const orders = [...groups.values()].map((lines) => writeOne(tx.db, desk, lines));
    tx.record("orders.written", `orders ${orders.join(", ")}`, { picks });
    return done({ orders });
  });
}

/** The day to ask for: the day of need, or the earliest possible where that is too late already. */
const requiredFor = (n: Need, today: Day): Day => {
  const wished = n.lateBy > 0 && n.arrives ? n.arrives : n.neededOn;
  return wished < today ? today : wished;
};

function writeOne(db: Db, desk: Desk, lines: { need: Need; quantity: number }[]): number {
  const first = lines[0]!.need;
  const supplier = first.supplier!;
  const days = lines.map((l) => requiredFor(l.need, desk.day));
  const order = Number(
    sql(
      db,
      "INSERT INTO purchase_order (supplier, store, currency, writer, state, required, written) VALUES (?, ?, ?, ?, 'Draft', ?, ?)",
    ).run(supplier.id, first.store, supplier.currency, desk.person.id, [...days].sort()[0], desk.now).lastInsertRowid,
  );
  const taxed = sql<{ taxed: number }>(db, "SELECT taxed FROM supplier WHERE id = ?").get(supplier.id)!.taxed === 1;
  const company = theCompany(db);
  const add = sql(
    db,
    `INSERT INTO order_line (purchase_order, position, item, sourcing, words, their_code, unit, factor, quantity, price, price_source, standing_discount, tax_rate, required, store)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const tie = sql(db, "INSERT INTO need_tie (order_line, source, requisition_line, quantity) VALUES (?, ?, ?, ?)");
  lines.forEach(({ need, quantity }, i) => {
    const source = need.sourcing === null ? null : sourcingOf(db, need.sourcing);
    const taxRate = taxed ? (source?.taxRate ?? company.taxRate) : 0;
    // A service has no record to price it from: what the asker was told is a start, with a warning.
    const told = source || supplier.currency !== company.currency ? null : (need.requisition?.estimate ?? null);
    const line = add.run(
      order,
      i + 1,
      need.item,
      need.sourcing,
      need.name,
      source?.theirCode ?? "",
      source?.unit ?? "C62",
      source?.factor ?? ONE,
      purchase(quantity),
      told === null ? null : perUnit(told, quantity, company.currency),
      JSON.stringify({ kind: "reference cost" }),
      source?.standing ?? 0,
      taxRate,
      days[i],
      need.store,
    ).lastInsertRowid;
    tie.run(line, need.source, need.requisition?.line ?? null, need.wanted);
  });
  priceOrder(db, order, desk.day);
  settleRequisitionsOf(db, order);
  return order;
}

/** An amount for the whole line as a price per unit, at the sixth place. */
const perUnit = (minor: number, quantity: number, currency: string) =>
  unitPrice(
    roundToInteger(
      new Big(minor)
        .div(new Big(10).pow(exponent(currency)))
        .div(quantity)
        .times(ONE)
        .times(1_000_000),
    ),
  );

const sourcingOf = (db: Db, id: number) =>
  sql<{ theirCode: string; unit: string; factor: number; standing: number; taxRate: number }>(
    db,
    `SELECT c.their_code AS theirCode, c.unit, c.factor, c.standing_discount AS standing, i.tax_rate AS taxRate
     FROM sourcing c JOIN item i ON i.id = c.item WHERE c.id = ?`,
  ).get(id)!;
