import type { Day } from "../../../core/calendar/day";
import type { AddedToPlaced } from "../../../core/orders/changes";
import { taxRateOf } from "../../../core/orders/tax";
import type { PriceSource } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { type OrderHead, readOrderLines } from "../../queries/orders/order";
import { type Desk, type Done, done, type Problem, refuseAll } from "../desk";
import { type AddedLine, insertLine, lineFor, MOST_LINES } from "./add-lines";
import { lastPosition } from "./order-for";
import { priceOnOrder } from "./price-order";

/** Lines that are to be added to an order that its supplier has, as they would stand on it; or what is wrong with each. */
export function readAdded(
  db: Db,
  desk: Pick<Desk, "day" | "hour">,
  head: OrderHead,
  add: readonly AddedLine[],
): Done<AddedToPlaced[]> {
  const problems: Problem[] = [];
  const no = (i: number, field: string, says: string): [] => {
    problems.push({ field: `add.${i}.${field}`, says });
    return [];
  };
  if (head.kind === "call-off" && add.length > 0)
    no(0, "code", "A call-off holds only what is drawn from its blanket order. Write an order of its own.");
  if (lastPosition(db, head.id) + add.length > MOST_LINES) no(0, "code", `An order has at most ${MOST_LINES} lines.`);
  const lines = readOrderLines(db, head.id, head.currency);
  const read = add.flatMap((a, i): AddedToPlaced[] => {
    const l = lineFor(db, desk, head, a, `add.${i}`, problems);
    if (!l) return [];
    if (l.required < desk.day) return no(i, "required", "This day has passed.");
    const { typed, required, sourcing } = l;
    // A break counts all lines of the item on the order.
    const together = lines.reduce((n, o) => (o.sourcing === sourcing ? n + o.quantity - o.closedShort : n), l.quantity);
    const found = typed || sourcing === null ? null : priceOnOrder(db, head, sourcing, together, desk.day);
    const source: PriceSource | null = typed ? { kind: "typed" } : (found?.source ?? null);
    const price = l.price ?? found?.price ?? null;
    if (price === null || source === null || found?.warning)
      return no(i, "price", "Nobody agreed a price for it: say one.");
    const item = l.item === null ? null : rateOfItem(db, l.item);
    const { kind, words, theirCode, unit, factor, quantity, standing, discount, note } = l;
    return [
      {
        kind,
        item: l.item,
        sourcing,
        words,
        theirCode,
        unit,
        factor,
        quantity,
        price,
        source,
        standing,
        discount,
        note,
        required,
        spread: kind === "charge" ? "value" : "expense",
        taxRate: taxRateOf({ taxed: head.taxed, typed: null, item, house: theCompany(db).taxRate }),
      },
    ];
  });
  return problems.length ? refuseAll(problems) : done(read);
}

const rateOfItem = (db: Db, item: number): number | null =>
  sql<{ rate: number | null }>(db, "SELECT tax_rate AS rate FROM item WHERE id = ?").get(item)?.rate ?? null;

/** Puts lines onto an order that its supplier has: with their price and tax as they are kept from then on. */
export function addToPlaced(db: Db, head: OrderHead, added: readonly AddedToPlaced[], today: Day): void {
  const last = lastPosition(db, head.id);
  const fix = sql(db, "UPDATE order_line SET price_source = ?, tax_rate = ? WHERE id = ?");
  for (const [i, { source, taxRate, required, ...l }] of added.entries()) {
    const id = insertLine(
      db,
      head,
      { ...l, typed: false, blanketLine: null, required: required < today ? today : required },
      last + i + 1,
    );
    fix.run(JSON.stringify(source), taxRate, id);
  }
}
