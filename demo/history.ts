import { addDays, type Day, daysBetween, weekday } from "../core/calendar/day";
import type { OrderId, StoreId, SupplierId } from "../core/ids";
import { exchanged, lineNet, type UnitPrice } from "../core/numbers/money";
import { factorOf, ONE, purchase, toStock } from "../core/numbers/quantity";
import { valueFound, valueOut } from "../core/stock/value";
import { bindRevision } from "../server/acts/orders/bind-revision";
import { countIntoSchedule, keepSchedule } from "../server/acts/orders/keep-schedule";
import { priceOrder } from "../server/acts/orders/price-order";
import { settleOrder } from "../server/acts/orders/settle-order";
import { type Db, madeId, sql } from "../server/db/open";
import { nextNumber } from "../server/db/series";
import { documentOf } from "../server/queries/orders/document";
import { readOrder } from "../server/queries/orders/order";
import { ITEMS } from "./catalogue";
import { chance } from "./chance";
import { COMPANY, SUPPLIERS } from "./company";
import { demoBin, onHandOf, settingsOf } from "./files";
import { keptPromises, rateHistory } from "./past";

const DAYS = 548; // 18 months
/** So many of a hundred loads bring something broken. */
const DAMAGED = 3;
/** So many days before today what comes is no longer part of the stock that is used. */
const QUIET = 45;

interface Bought {
  supplier: string;
  store: string;
  sent: Day;
  came: Day;
  lines: { item: string; packs: number }[];
}
interface Moved {
  item: string;
  store: string;
  day: Day;
  kind: "opening" | "issue" | "receipt";
  /** Whole stock units, signed. */
  quantity: number;
}
/** A movement as the file keeps it, before it is worth anything. */
interface Moving {
  item: number;
  store: number;
  bin: string;
  day: Day;
  kind: Moved["kind"];
  /** Stock units in ten-thousandths, signed. */
  quantity: number;
  /** What came, with what it cost at home. */
  came: { line: number; value: number } | null;
}

/** Eighteen months of use, orders and receipts. The stock file that is loaded after it counts what is on hand today. */
export function writeHistory(db: Db, today: Day, buyer: number, dockHand: number): void {
  const { moves, orders } = live(today);
  const id = (table: string, code: string) =>
    sql<{ id: number }>(db, `SELECT id FROM ${table} WHERE code = ?`).get(code)!.id;
  const items = new Map(ITEMS.map((i) => [i.code, id("item", i.code)]));
  const stores = new Map(["TQ", "HS", "SK"].map((c) => [c, id("store", c)]));
  const suppliers = new Map(SUPPLIERS.map((s) => [s.code, id("supplier", s.code)]));
  const bins = new Map(ITEMS.map((i) => [i.code, demoBin(i)]));
  const binById = new Map(ITEMS.map((i) => [items.get(i.code)!, demoBin(i)]));
  const addBin = sql(db, "INSERT OR IGNORE INTO store_bin (store, code) VALUES (?, ?)");
  for (const i of ITEMS) for (const { code } of i.stores) addBin.run(stores.get(code), demoBin(i));
  const moved: Moving[] = moves
    .filter((m) => m.kind !== "receipt")
    .map((m) => ({
      item: items.get(m.item)!,
      store: stores.get(m.store)!,
      bin: bins.get(m.item)!,
      day: m.day,
      kind: m.kind,
      quantity: m.quantity * ONE,
      came: null,
    }));
  const addPlace = sql(db, "INSERT INTO item_store (item, store, policy) VALUES (?, ?, 'to order')");
  for (const i of ITEMS) for (const { code } of i.stores) addPlace.run(items.get(i.code), stores.get(code));
  rateHistory(db, today);
  const roll = chance(4_127);
  for (const o of orders.sort((a, b) => a.sent.localeCompare(b.sent))) {
    const kept = keptPromises(o.supplier, o.sent, o.came, today, roll);
    const order = insertOrder(
      db,
      { ...o, supplier: suppliers.get(o.supplier)!, store: stores.get(o.store)!, came: kept.asked },
      buyer,
      items,
    );
    const number = nextNumber(db, "order", o.sent);
    const sent = `${o.sent}T09:20:00.000Z`;
    sql(
      db,
      "UPDATE purchase_order SET number = ?, submitted = ?, cleared = ?, placed = ?, version = 4 WHERE id = ?",
    ).run(number, sent, sent, sent, order);
    const sheet = readOrder(db, order)!;
    settleOrder(db, order, "placed");
    bindRevision(db, { now: sent, person: { id: buyer } }, order, documentOf(db, sheet, o.sent));
    for (const l of sheet.lines) {
      sql(db, "UPDATE order_schedule SET promised = ? WHERE order_line = ?").run(kept.said.at(-1)?.day ?? null, l.id);
      for (const said of kept.said)
        sql(db, "INSERT INTO promise (order_line, quantity, day, at) VALUES (?, ?, ?, ?)").run(
          l.id,
          l.quantity,
          said.day,
          said.at,
        );
    }
    const receipt = sql(
      db,
      "INSERT INTO receipt (number, purchase_order, store, day, delivery_note, person, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
    ).run(
      nextNumber(db, "receipt", kept.came),
      order,
      sheet.head.store,
      kept.came,
      `${o.supplier}-D ${order + 4100}`,
      dockHand,
      `${kept.came}T10:05:00.000Z`,
    ).lastInsertRowid;
    for (const l of sheet.lines) {
      const stock = toStock(purchase(l.quantity), factorOf(l.factor));
      const value = lineNet(l.quantity, l.price!, l.standing, l.discount, sheet.head.currency);
      const home = exchanged(value, sheet.head.rate!, COMPANY.currency).minor;
      const line = sql(
        db,
        "INSERT INTO receipt_line (receipt, order_line, quantity, stock_quantity, value, home_value) VALUES (?, ?, ?, ?, ?, ?)",
      ).run(receipt, l.id, l.quantity, stock, value.minor, home).lastInsertRowid;
      moved.push({
        item: l.item!,
        store: sheet.head.store,
        bin: binById.get(l.item!)!,
        day: kept.came,
        kind: "receipt",
        quantity: stock,
        came: { line: Number(line), value: home },
      });
      countIntoSchedule(db, l.id, l.quantity);
    }
    const spoilt = sheet.lines[0]!;
    if (roll.whole(1, 100) <= DAMAGED) {
      const aside = sql(
        db,
        "INSERT INTO set_aside (receipt, order_line, why, ordered, quantity, undecided, note) VALUES (?, ?, 'damaged', 0, ?, ?, 'one more was in the box, broken')",
      ).run(receipt, spoilt.id, ONE, ONE).lastInsertRowid;
      sql(
        db,
        "INSERT INTO set_aside_decision (set_aside, what, quantity, reason, person, at) VALUES (?, 'scrap', ?, 'not worth sending back', ?, ?)",
      ).run(aside, ONE, buyer, `${kept.came}T14:20:00.000Z`);
    }
    settleOrder(db, order);
  }
  keepMoves(db, openedSoThatItFits(db, moved), dockHand);
}

/** Opens with so much of each that what is there today comes out, as far as no shelf would ever have held less than nothing. */
function openedSoThatItFits(db: Db, moved: readonly Moving[]): Moving[] {
  const ordered = moved.toSorted((a, b) => a.day.localeCompare(b.day) || ORDER[a.kind] - ORDER[b.kind]);
  const places = new Map<string, Moving[]>();
  for (const m of ordered) places.set(`${m.item}/${m.store}`, [...(places.get(`${m.item}/${m.store}`) ?? []), m]);
  const today = new Map(
    ITEMS.flatMap((i) =>
      i.stores.map(({ code }) => {
        const place = sql<{ key: string }>(
          db,
          "SELECT i.id || '/' || s.id AS key FROM item i, store s WHERE i.code = ? AND s.code = ?",
        ).get(i.code, code)!;
        return [place.key, onHandOf(i, code) * ONE] as const;
      }),
    ),
  );
  return [...places].flatMap(([key, all]) => {
    let hand = 0;
    let least = Number.POSITIVE_INFINITY;
    for (const m of all) {
      hand += m.quantity;
      least = Math.min(least, hand);
    }
    const by = Math.max(today.get(key)! - hand, -least);
    return all.map((m) => (m.kind === "opening" ? { ...m, quantity: m.quantity + by } : m));
  });
}
const ORDER: Record<Moved["kind"], number> = { opening: 0, receipt: 1, issue: 2 };

/** Keeps movements in their order with what they were worth: what came at its cost, what went at the mean of what lay there. */
function keepMoves(db: Db, moved: readonly Moving[], dockHand: number): void {
  const add = sql(
    db,
    "INSERT INTO movement (item, store, bin, day, kind, quantity, value, receipt_line, note, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, '', ?, ?)",
  );
  const held = sql<{ quantity: number; value: number; reference: UnitPrice }>(
    db,
    "SELECT p.on_hand AS quantity, p.value, i.reference_cost AS reference FROM item_store p JOIN item i ON i.id = p.item WHERE p.item = ? AND p.store = ?",
  );
  for (const m of moved.toSorted((a, b) => a.day.localeCompare(b.day) || ORDER[a.kind] - ORDER[b.kind])) {
    const there = held.get(m.item, m.store)!;
    const value =
      m.came?.value ??
      (m.kind === "issue"
        ? -valueOut(there, -m.quantity)
        : valueFound(there, m.quantity, there.reference, COMPANY.currency));
    const at = `${m.day}T${m.kind === "receipt" ? "10:05" : "12:00"}:00.000Z`;
    add.run(m.item, m.store, m.bin, m.day, m.kind, m.quantity, value, m.came?.line ?? null, dockHand, at);
  }
}

/** Writes a draft order of packs for the demo, priced as the buyer's would be. */
export function insertOrder(
  db: Db,
  o: { supplier: SupplierId; store: StoreId; sent: Day; came: Day; lines: { item: string; packs: number }[] },
  buyer: number,
  items: Map<string, number>,
): OrderId {
  const { currency, taxed } = sql<{ currency: string; taxed: number }>(
    db,
    "SELECT currency, taxed FROM supplier WHERE id = ?",
  ).get(o.supplier)!;
  const order = madeId<"order">(
    sql(
      db,
      "INSERT INTO purchase_order (supplier, store, currency, writer, required, written) VALUES (?, ?, ?, ?, ?, ?)",
    ).run(o.supplier, o.store, currency, buyer, o.came, `${o.sent}T08:40:00.000Z`),
  );
  o.lines.forEach((l, i) => {
    const item = items.get(l.item)!;
    const c = sql<{
      id: number;
      unit: string;
      factor: number;
      theirCode: string;
      standing: number;
      tax: number;
      name: string;
    }>(
      db,
      `SELECT c.id, c.unit, c.factor, c.their_code AS theirCode, c.standing_discount AS standing, i.tax_rate AS tax, i.name
       FROM sourcing c JOIN item i ON i.id = c.item WHERE c.item = ? AND c.supplier = ?`,
    ).get(item, o.supplier)!;
    const line = sql(
      db,
      `INSERT INTO order_line (purchase_order, position, item, sourcing, words, their_code, unit, factor, quantity, price_source, standing_discount, tax_rate, store)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, '{"kind":"reference cost"}', ?, ?, ?)`,
    ).run(
      order,
      i + 1,
      item,
      c.id,
      c.name,
      c.theirCode,
      c.unit,
      c.factor,
      l.packs * ONE,
      c.standing,
      taxed ? c.tax : 0,
      o.store,
    ).lastInsertRowid;
    keepSchedule(db, Number(line), { quantity: l.packs * ONE, required: o.came });
    sql(
      db,
      "INSERT INTO need_tie (order_line, source, quantity, wanted) VALUES (@line, 'reorder', @wanted, @wanted)",
    ).run({
      line,
      wanted: l.packs * c.factor,
    });
  });
  priceOrder(db, order, o.sent);
  return order;
}

/** Lives eighteen months day by day: goods are used, fall below the reorder point, are ordered, and come. */
function live(today: Day): { moves: Moved[]; orders: Bought[] } {
  const roll = chance(20_261_124);
  const moves: Moved[] = [];
  const byOrder = new Map<string, Bought>();
  for (const item of ITEMS) {
    for (const { code: store } of item.stores) {
      const { daily, point, lot } = settingsOf(item, store);
      const offer = item.offers[0]!;
      const supplier = SUPPLIERS.find((s) => s.code === offer.supplier)!;
      const start = addDays(today, -DAYS);
      let hand = point + lot;
      moves.push({ item: item.code, store, day: start, kind: "opening", quantity: hand });
      const due = new Map<Day, number>();
      let used = 0;
      let lately = 0;
      for (let n = 1; n < DAYS - 3; n++) {
        const day = addDays(start, n);
        const came = due.get(day);
        if (came) {
          hand += came;
          moves.push({ item: item.code, store, day, kind: "receipt", quantity: came });
          due.delete(day);
        }
        if (weekday(day) > 5) continue;
        // Use comes in handfuls, and more of it in the slip season.
        const season = [11, 12, 1, 2, 3].includes(Number(day.slice(5, 7))) ? 1.3 : 0.85;
        used += daily * 1.4 * season * roll.between(0.4, 1.6);
        const handful = Math.min(hand, Math.floor(used));
        if (handful >= 1 && (roll.next() < 0.45 || handful >= 5)) {
          used -= handful;
          hand -= handful;
          moves.push({ item: item.code, store, day, kind: "issue", quantity: -handful });
        }
        const coming = [...due.values()].reduce((a, b) => a + b, 0);
        // In the last weeks less was bought than was used: what is short today is what the buyer finds this morning.
        const short = n < DAYS - QUIET ? hand + coming < point : hand + coming + lately < point / 2;
        if (short) {
          // The buyer orders on Mondays, all that a supplier sells to a store together.
          const monday = addDays(day, weekday(day) === 1 ? 0 : 8 - weekday(day));
          const arrives = addDays(monday, offer.lead + Math.max(0, supplier.habit));
          const packs = Math.max(1, Math.round(lot / offer.factor));
          if (n < DAYS - QUIET) due.set(arrives, (due.get(arrives) ?? 0) + packs * offer.factor);
          else if (daysBetween(arrives, today) < 2) continue;
          else lately += packs * offer.factor;
          const key = `${offer.supplier}/${store}/${monday}/${arrives}`;
          const order = byOrder.get(key) ?? { supplier: offer.supplier, store, sent: monday, came: arrives, lines: [] };
          const line = order.lines.find((l) => l.item === item.code);
          if (line) line.packs += packs;
          else order.lines.push({ item: item.code, packs });
          byOrder.set(key, order);
        }
      }
    }
  }
  return { moves, orders: [...byOrder.values()] };
}
