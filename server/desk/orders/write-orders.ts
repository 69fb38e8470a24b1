import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import { RUNS } from "../../../core/needs/run";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exponent, unitPrice } from "../../../core/numbers/money";
import { ONE, parseQuantity, purchase } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../read/company";
import type { Need } from "../../read/needs/need";
import { readChoices } from "../../read/needs/needs";
import { needNow } from "../../read/needs/one";
import { groundOf, withSource } from "../../read/needs/plan";
import { readSource } from "../../read/needs/positions";
import { checked, type Desk, type Done, done, once, type Problem, refuseAll, stale } from "../desk";
import { DayOrNone, Id, orNone, Quantity } from "../fields";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { priceOrder } from "./price-order";

const Pick = z.object({
  need: z.string().max(60),
  /** Purchase units; left out, it is what the person typed in Needs, or else what is suggested. */
  quantity: Quantity.optional(),
  /** The sourcing record chosen instead of the preferred one; left out, it is the one chosen in Needs. */
  sourcing: orNone(Id).optional(),
});
export const WriteOrders = z.object({
  picks: z.array(Pick).min(1, "Tick at least one need.").max(2000, "At most 2,000 needs at once."),
  run: z.enum(RUNS, "There is no such rule.").default("usual"),
  asOf: DayOrNone.optional(),
});

interface Line {
  need: Need;
  quantity: number;
}

/** Writes one draft order for each supplier and store of the chosen needs, and takes them out of the pool. */
export function writeOrders(desk: Desk, raw: unknown): Done<{ orders: number[] }> {
  const input = checked(WriteOrders, raw);
  if (!input.ok) return input;
  const { picks, run, asOf } = input.value;
  const plan = { today: desk.day, hour: desk.hour, run, asOf: asOf && asOf > desk.day ? asOf : desk.day };
  return once(desk, "write orders", (tx) => {
    const g = groundOf(tx.db, plan, false);
    const problems: Problem[] = [];
    const groups = new Map<string, Line[]>();
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
      groups.set(group, [...(groups.get(group) ?? []), { need, quantity }]);
    }
    if (problems.length) return refuseAll(problems);
    const orders = [...groups.values()].map((lines) => writeOne(tx.db, desk, lines));
    const forget = sql(tx.db, "DELETE FROM need_choice WHERE need = ?");
    for (const key of seen) forget.run(key);
    tx.record("orders.written", `orders ${orders.join(", ")}`, { picks, run, asOf: plan.asOf });
    return done({ orders });
  });
}

/** The day to ask for: the day of need, or the earliest possible where that is too late already. */
const requiredFor = (n: Need, today: Day): Day => {
  const wished = n.lateBy > 0 && n.arrives ? n.arrives : n.neededOn;
  return wished < today ? today : wished;
};

function writeOne(db: Db, desk: Desk, lines: Line[]): number {
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
  lines.forEach(({ need, quantity }, i) => {
    const source = need.sourcing === null ? null : sourcingOf(db, need.sourcing);
    const taxRate = taxed ? (source?.taxRate ?? company.taxRate) : 0;
    // A service has no record to price it from: what the asker was told is a start, with a warning.
    const told = source || supplier.currency !== company.currency ? null : (need.requisition?.estimate ?? null);
    const line = Number(
      add.run(
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
      ).lastInsertRowid,
    );
    for (const part of need.parts.length ? need.parts : [need]) tieTo(db, line, part.key, part.wanted);
  });
  priceOrder(db, order, desk.day);
  settleRequisitionsOf(db, order);
  return order;
}

/** Remembers what an order line is for, by the key of the need. */
function tieTo(db: Db, line: number, key: string, wanted: number): void {
  const [kind, id] = key.split(":");
  const source = ({ r: "requisition", j: "job", n: "noted" } as const)[kind ?? ""] ?? "reorder";
  sql(
    db,
    "INSERT INTO need_tie (order_line, source, requisition_line, job_demand, noted_need, quantity) VALUES (?, ?, ?, ?, ?, ?)",
  ).run(line, source, kind === "r" ? id : null, kind === "j" ? id : null, kind === "n" ? id : null, wanted);
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
