import type { Day } from "../../../core/calendar/day";
import { laterOf } from "../../../core/calendar/day";
import { byLot, type Layer } from "../../../core/consigned/layers";
import type { PersonId } from "../../../core/ids";
import { readPerson } from "../../auth/sessions";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { agreedPrice, type BoundItem, boundItem } from "../../queries/consigned/agreement";
import { keepCommitments } from "../budgets/keep-commitments";
import type { Desk } from "../desk";
import { tell } from "../notices";
import { stockedItem } from "../stock/stock-paper";
import { bringTheirs, type TheirGoods } from "./bring";
import { binsOf, theirGoods } from "./pick-theirs";

interface RipeLayer extends Layer {
  agreementItem: number;
  /** When something of it last moved. */
  moved: Day | null;
}

/** What has become ours by a day and was not booked yet, the first day first. */
const ripe = (db: Db, day: Day): RipeLayer[] =>
  sql<RipeLayer>(
    db,
    `SELECT y.id, y.day, y.lot, y.rest AS "left", y.ours_on AS oursOn, y.agreement_item AS agreementItem, (SELECT max(t.day) FROM consigned_take t WHERE t.layer = y.id) AS moved
     FROM consigned_layer y WHERE y.rest > 0 AND y.ours_on IS NOT NULL AND y.ours_on <= ? ORDER BY y.ours_on, y.id LIMIT 2000`,
  ).all(day);

/**
 * What only time does: what is left of a delivery becomes ours on its day, at the price of that day, with order and receipt
 * (domain-goods §13). Each agreement and day is an act with an audit row; it happens once, also after days of standing still,
 * and is booked on its own day, or on the day on which something of it last moved where that is later. In the name of
 * whoever wrote the agreement. What has no price on its day waits, and its writer is told. Returns how many orders it wrote.
 */
export function tickConsigned(db: Db, now: string, day: Day): number {
  const groups = new Map<string, { agreement: number; day: Day; layers: RipeLayer[] }>();
  for (const l of ripe(db, day)) {
    const bound = boundItem(db, l.agreementItem)!;
    const on = laterOf(l.oursOn!, l.moved ?? l.oursOn!);
    const key = `${on}/${bound.agreement.id}`;
    const of = groups.get(key) ?? { agreement: bound.agreement.id, day: on, layers: [] };
    groups.set(key, { ...of, layers: [...of.layers, l] });
  }
  let orders = 0;
  for (const [, g] of [...groups].sort(([a], [b]) => (a < b ? -1 : 1)))
    orders += db.transaction(() => becomeOurs(db, now, g)).immediate();
  return orders;
}

function becomeOurs(db: Db, now: string, of: { day: Day; layers: readonly RipeLayer[] }): number {
  const rows: TheirGoods[] = [];
  let bound: BoundItem | null = null;
  for (const layers of byItem(of.layers)) {
    bound = boundItem(db, layers[0]!.agreementItem)!;
    const { agreement } = bound;
    const item = stockedItem(db, bound.item)!;
    const price = agreedPrice(db, bound.id, of.day);
    if (price === null) {
      tellOnce(
        db,
        now,
        agreement.writer,
        `No price of ${item.name} for goods that became ours`,
        agreement.name,
        `/agreements/${agreement.id}`,
      );
      continue;
    }
    for (const l of byLot(layers.map((y) => ({ layer: y.id, lot: y.lot, quantity: y.left })))) {
      const at = { item: bound.item, store: agreement.store, owner: agreement.supplier, lot: l.lot };
      rows.push(theirGoods(bound, item, price, l, binsOf(db, at, l.quantity)!));
    }
  }
  if (rows.length === 0 || bound === null) return 0;
  const { agreement } = bound;
  const person = readPerson(db, agreement.writer)!;
  const desk: Desk = { db, person, day: of.day, hour: 0, now, key: "" };
  const brought = bringTheirs(db, desk, { agreement, what: "became ours", job: null, paper: null, note: "", rows });
  keepCommitments(db);
  tell(
    db,
    now,
    agreement.writer,
    `Became ours: ${rows
      .map((r) => r.name)
      .slice(0, 3)
      .join(", ")}`,
    `order ${brought.number} to ${agreement.supplierName} wrote itself`,
    `/orders/${brought.order}`,
  );
  recordAudit(db, now, null, "consigned.became-ours", `agreement ${agreement.id}`, {
    day: of.day,
    order: brought.number,
    rows: rows.map((r) => ({ item: r.item, lot: r.lot, quantity: r.quantity, price: r.price })),
  });
  return 1;
}

function byItem(layers: readonly RipeLayer[]): RipeLayer[][] {
  const of = new Map<number, RipeLayer[]>();
  for (const l of layers) of.set(l.agreementItem, [...(of.get(l.agreementItem) ?? []), l]);
  return [...of.values()];
}

/** Tells a person, unless the same was told and is not read yet. */
function tellOnce(db: Db, now: string, person: PersonId, text: string, detail: string, href: string): void {
  if (
    !sql(db, "SELECT 1 FROM notice WHERE person = ? AND text = ? AND href = ? AND read IS NULL").get(person, text, href)
  )
    tell(db, now, person, text, detail, href);
}

/** Before anybody uses, counts or sends back goods of suppliers: what became ours by today is ours. */
export function ripenTheirs(desk: Pick<Desk, "db" | "now" | "day">): void {
  if (sql(desk.db, "SELECT 1 FROM consigned_layer WHERE rest > 0 AND ours_on <= ? LIMIT 1").get(desk.day))
    tickConsigned(desk.db, desk.now, desk.day);
}
