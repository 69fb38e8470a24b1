import { addDays, type Day, daysBetween, laterOf } from "../../../core/calendar/day";
import { type First, priceOn } from "../../../core/consigned/agreement";
import type { Layer } from "../../../core/consigned/layers";
import {
  holdingSum,
  type LeastMost,
  LOOKED_AT,
  type Ripening,
  type RipeWay,
  rightLeastMost,
  ripening,
  type WayKind,
  waysOf,
  yearBack,
} from "../../../core/consigned/outlook";
import { refillOf, refillSum } from "../../../core/consigned/refill";
import type { UsedAs } from "../../../core/consigned/use";
import type { ItemId, StoreId, SupplierId } from "../../../core/ids";
import { measured, spread } from "../../../core/needs/safety";
import { lineNet, type UnitPrice } from "../../../core/numbers/money";
import { ONE } from "../../../core/numbers/quantity";
import { comesWhole } from "../../../core/numbers/units";
import { quantity, type Step, type Sum } from "../../../core/sums/sum";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { onItsWay } from "./refills";
import { type UseRow, unsettledUses, usesOfItem } from "./statements";

/** Goods of one item that a supplier has on our shelf. Stock units; what it is worth only for whoever sees prices. */
export interface ShelfRow {
  id: number;
  agreement: number;
  agreementName: string;
  supplier: SupplierId;
  supplierName: string;
  store: StoreId;
  storeName: string;
  oursAfter: number | null;
  first: First;
  item: ItemId;
  code: string;
  name: string;
  unit: string;
  unitCode: string;
  bins: string;
  least: number;
  most: number;
  here: number;
  used30: number;
  lastUsed: Day | null;
  layers: Layer[];
  /** The next day on which some of it becomes ours, at what is used now, and how much. */
  next: { day: Day; becomes: number } | null;
}

export interface PricedRow extends ShelfRow {
  currency: string;
  price: UnitPrice | null;
  worth: number | null;
}

/** Which shelves are shown. */
export const SHELF_CUTS = ["all", "below", "week", "unused"] as const;
export type ShelfCut = (typeof SHELF_CUTS)[number];

export const isIn = (cut: ShelfCut, r: ShelfRow, today: Day): boolean => {
  switch (cut) {
    case "all":
      return true;
    case "below":
      return r.here < r.least;
    case "week":
      return r.layers.some((l) => l.oursOn !== null && l.oursOn <= addDays(today, 7));
    case "unused":
      return r.here > 0 && (r.lastUsed === null || r.lastUsed < addDays(today, -60));
  }
};

type Row = Omit<ShelfRow, "layers" | "next">;

/** One row for each item of an agreement that runs, or of which something is left: by supplier, store and code. */
export const SHELVES = `
  SELECT x.id, a.id AS agreement, 'Agreement ' || a.number AS agreementName, a.supplier, s.name AS supplierName, a.store, t.name AS storeName, a.ours_after AS oursAfter, a.first,
         x.item, i.code, i.name, u.name AS unit, i.unit AS unitCode, x.least, x.most, coalesce(y.here, 0) AS here, coalesce(n.used, 0) AS used30,
         (SELECT max(k.day) FROM consigned_use k WHERE k.agreement_item = x.id AND k.what = 'used') AS lastUsed,
         coalesce((SELECT group_concat(b.bin, ', ') FROM stock_balance b WHERE b.item = x.item AND b.store = a.store AND b.owner = a.supplier AND b.quantity > 0 AND b.bin <> ''), '') AS bins
  FROM agreement a JOIN agreement_item x ON x.agreement = a.id JOIN item i ON i.id = x.item JOIN unit u ON u.code = i.unit JOIN supplier s ON s.id = a.supplier JOIN store t ON t.id = a.store
  LEFT JOIN (SELECT agreement_item, sum(rest) AS here FROM consigned_layer WHERE rest > 0 GROUP BY agreement_item) y ON y.agreement_item = x.id
  LEFT JOIN (SELECT agreement_item, sum(quantity) AS used FROM consigned_use WHERE day > @since AND what IN ('used', 'taken back') GROUP BY agreement_item) n ON n.agreement_item = x.id
  WHERE a.revision > 0 AND ((a.state = 'Running' AND x.gone = 0) OR y.here > 0) AND (@store IS NULL OR a.store = @store) AND (@agreement IS NULL OR a.id = @agreement)
  ORDER BY s.name, t.name, a.id, i.code`;

export const LAYERS =
  'SELECT agreement_item AS of_item, id, day, lot, rest AS "left", ours_on AS oursOn FROM consigned_layer WHERE rest > 0 ORDER BY day, id';

/** Suppliers' goods on our shelves; of one store, of one agreement, or all. It holds no price. */
export function readConsigned(
  db: Db,
  today: Day,
  { store = null, agreement = null }: { store?: StoreId | null; agreement?: number | null } = {},
): ShelfRow[] {
  const layers = new Map<number, Layer[]>();
  for (const { of_item, ...l } of sql<Layer & { of_item: number }>(db, LAYERS).all()) {
    const of = layers.get(of_item);
    if (of) of.push(l);
    else layers.set(of_item, [l]);
  }
  return sql<Row>(db, SHELVES)
    .all({ store, agreement, since: addDays(today, -LOOKED_AT) })
    .map((r) => {
      const own = layers.get(r.id) ?? [];
      const first = own.length > 0 ? ripening(own, r.used30, today).find((x) => x.becomes > 0) : undefined;
      return { ...r, layers: own, next: first ? { day: first.oursOn, becomes: first.becomes } : null };
    });
}

/** The same with what each is worth at the price of today. */
export function withWorth(db: Db, rows: readonly ShelfRow[], today: Day): PricedRow[] {
  const prices = new Map<number, { day: Day; price: UnitPrice }[]>();
  for (const p of sql<{ of_item: number; day: Day; price: UnitPrice }>(
    db,
    "SELECT agreement_item AS of_item, day, price FROM agreement_price",
  ).all())
    prices.set(p.of_item, [...(prices.get(p.of_item) ?? []), p]);
  const currencies = new Map(
    sql<{ id: number; currency: string }>(db, "SELECT id, currency FROM agreement")
      .all()
      .map((a) => [a.id, a.currency]),
  );
  return rows.map((r) => {
    const currency = currencies.get(r.agreement)!;
    const price = priceOn(prices.get(r.id) ?? [], today);
    return { ...r, currency, price, worth: price === null ? null : lineNet(r.here, price, 0, 0, currency).minor };
  });
}

/** What stands beside one row: how it came to be so, what becomes ours, and what may be done. */
export interface ShelfSlip {
  id: number;
  stands: Sum;
  refill: Sum;
  ripening: Ripening[];
  jobs: { job: number; name: string; open: number }[];
  uses: UsedLine[];
  byMonth: { month: string; quantity: number }[];
  leastMost: LeastMost | null;
  /** What is asked of them and not answered: more days. */
  asked: { id: number; days: number; quantity: number; oursOn: Day }[];
  saidYes: number;
  answers: number;
  lastSaid: "never" | "waits" | "yes" | "no";
}
/** A use as it is listed; without money. */
export type UsedLine = Pick<
  UseRow,
  "id" | "day" | "what" | "job" | "note" | "quantity" | "open" | "reverses" | "order" | "orderId" | "statement"
>;

/** What only whoever sees prices is shown. */
export interface SlipMoney {
  currency: string;
  price: UnitPrice | null;
  ways: { ways: RipeWay[]; proposed: WayKind } | null;
  /** What is on no statement yet: by use, and in all. */
  unsettled: { id: number; day: Day; what: UsedAs; about: string; quantity: number; net: number }[];
  unsettledNet: number;
  holding: Sum | null;
}

export function readShelfSlip(db: Db, r: ShelfRow, today: Day): ShelfSlip {
  const asked = sql<ShelfSlip["asked"][number] & { answer: string | null }>(
    db,
    `SELECT l.id, l.days, l.quantity, y.ours_on AS oursOn, l.answer FROM longer l JOIN consigned_layer y ON y.id = l.layer WHERE l.agreement = ? ORDER BY l.id DESC LIMIT 200`,
  ).all(r.agreement);
  const answered = asked.filter((a) => a.answer !== null);
  const uses = usesOfItem(db, r.id, yearBack(today));
  const waits = asked.some(
    (a) =>
      a.answer === null &&
      sql(
        db,
        "SELECT 1 FROM longer l JOIN consigned_layer y ON y.id = l.layer WHERE l.id = ? AND y.agreement_item = ?",
      ).get(a.id, r.id) !== undefined,
  );
  return {
    id: r.id,
    stands: standsSum(db, r),
    refill: refillSum(
      { least: r.least, most: r.most, pack: packOf(db, r.id), here: r.here, onItsWay: onItsWay(db, r.id) },
      r.unit,
    ),
    ripening: ripening(r.layers, r.used30, today),
    jobs: sql<{ job: number; name: string; open: number }>(
      db,
      `SELECT j.id AS job, j.kind || ' ' || j.code || iif(j.vessel = '', '', ' ' || j.vessel) AS name, sum(d.quantity - d.issued) AS open
       FROM job_demand d JOIN job j ON j.id = d.job WHERE d.item = ? AND d.issued < d.quantity AND j.closed IS NULL GROUP BY j.id ORDER BY min(d.due)`,
    ).all(r.item),
    uses: uses
      .slice(0, 12)
      .map(({ id, day, what, job, note, quantity: q, open, reverses, order, orderId, statement }) => ({
        id,
        day,
        what,
        job,
        note,
        quantity: q,
        open,
        reverses,
        order,
        orderId,
        statement,
      })),
    byMonth: usedByMonth(db, r.id, today),
    leastMost: leastMostOf(db, r, today),
    asked: asked.filter((a) => a.answer === null).map(({ answer: _, ...a }) => a),
    saidYes: answered.filter((a) => a.answer === "yes").length,
    answers: answered.length,
    lastSaid: waits ? "waits" : ((answered[0]?.answer as "yes" | "no" | undefined) ?? "never"), // of its CHECK
  };
}

const packOf = (db: Db, id: number): number =>
  sql<{ pack: number }>(db, "SELECT pack FROM agreement_item WHERE id = ?").get(id)!.pack;

/** How what lies here came to be so. */
function standsSum(db: Db, r: ShelfRow): Sum {
  const came = sql<{ quantity: number; found: number }>(
    db,
    "SELECT coalesce(sum(iif(delivery IS NULL, 0, quantity)), 0) AS quantity, coalesce(sum(iif(delivery IS NULL, quantity, 0)), 0) AS found FROM consigned_layer WHERE agreement_item = ?",
  ).get(r.id)!;
  const taken = sql<{ what: string; quantity: number }>(
    db,
    "SELECT t.what, sum(t.quantity) AS quantity FROM consigned_take t JOIN consigned_layer y ON y.id = t.layer WHERE y.agreement_item = ? GROUP BY t.what HAVING sum(t.quantity) <> 0 ORDER BY min(t.id)",
  ).all(r.id);
  const of = (n: number) => quantity(n, r.unit);
  return {
    title: "How it stands",
    steps: [
      { op: "", label: "registered", figure: of(came.quantity) },
      ...(came.found > 0 ? [{ op: "+" as const, label: "found by counts", figure: of(came.found) }] : []),
      ...taken.map((t): Step => ({ op: t.quantity > 0 ? "−" : "+", label: t.what, figure: of(Math.abs(t.quantity)) })),
      { op: "=", label: "theirs, on our shelf", figure: of(r.here) },
    ],
  };
}

/** What was used in each of the last twelve months, what was taken back less. */
function usedByMonth(db: Db, id: number, today: Day): ShelfSlip["byMonth"] {
  const months = new Map(
    sql<{ month: string; quantity: number }>(
      db,
      "SELECT substr(day, 1, 7) AS month, sum(quantity) AS quantity FROM consigned_use WHERE agreement_item = ? AND day >= ? AND what IN ('used', 'taken back') GROUP BY 1",
    )
      .all(id, yearBack(today))
      .map((m) => [m.month, m.quantity]),
  );
  const [year, month] = [Number(today.slice(0, 4)), Number(today.slice(5, 7))];
  return Array.from({ length: 12 }, (_, i) => {
    const n = year * 12 + month - 12 + i;
    const key = `${Math.floor(n / 12)}-${String((n % 12) + 1).padStart(2, "0")}`;
    return { month: key, quantity: months.get(key) ?? 0 };
  });
}

/** Use by day and refill times of the last half year; null where nothing was used in it. */
function leastMostOf(db: Db, r: ShelfRow, today: Day): LeastMost | null {
  const began = sql<{ day: Day | null }>(
    db,
    "SELECT min(day) AS day FROM consigned_layer WHERE agreement_item = ?",
  ).get(r.id)!.day;
  if (began === null) return null;
  const since = laterOf(began, addDays(today, -182));
  const days = Math.max(1, daysBetween(since, today) + 1);
  const used = sql<{ quantity: number }>(
    db,
    "SELECT sum(quantity) AS quantity FROM consigned_use WHERE agreement_item = ? AND day >= ? AND what IN ('used', 'taken back') GROUP BY day HAVING sum(quantity) > 0",
  )
    .all(r.id, since)
    .map((u) => u.quantity / ONE);
  if (used.length === 0) return null;
  const daily = spread(measured([...used, ...Array<number>(Math.max(0, days - used.length)).fill(0)]));
  const refills = sql<{ days: number }>(
    db,
    `SELECT julianday(min(d.day)) - julianday(f.day) AS days FROM refill f JOIN refill_line l ON l.refill = f.id
     JOIN consigned_layer y ON y.agreement_item = l.agreement_item AND y.day >= f.day JOIN consigned_delivery d ON d.id = y.delivery
     WHERE l.agreement_item = ? AND l.came > 0 GROUP BY f.id`,
  )
    .all(r.id)
    .map((x) => x.days);
  const agreed = sql<{ days: number }>(db, "SELECT refill_days AS days FROM agreement_item WHERE id = ?").get(
    r.id,
  )!.days;
  const refill = refills.length > 1 ? spread(measured(refills)) : { mean: refills[0] ?? agreed, deviation: 0 };
  return rightLeastMost(
    r,
    { daily, refill, serviceLevel: theCompany(db).serviceLevel },
    r.unit,
    comesWhole(r.unitCode),
  );
}

/** What it comes to in money: the ways out, what is on no statement yet, and what it would have cost to own it. */
export function readSlipMoney(db: Db, r: PricedRow, slip: ShelfSlip, today: Day): SlipMoney {
  const next = slip.ripening.find((x) => x.becomes > 0) ?? slip.ripening[0];
  const unsettled = unsettledUses(db, r.agreement, today).filter((u) => u.agreementItem === r.id);
  return {
    currency: r.currency,
    price: r.price,
    ways: next && r.price !== null ? waysOf(next, r.price, r.currency, slip.lastSaid) : null,
    unsettled: unsettled.slice(-12).map((u) => ({
      id: u.id,
      day: u.day,
      what: u.what,
      about: u.job ?? u.note,
      quantity: u.quantity,
      net: u.net,
    })),
    unsettledNet: unsettled.reduce((a, u) => a + u.net, 0),
    holding: holdingOf(db, r, today),
  };
}

/** Day by day of the last year, how much of theirs lay here: unit-days, from what came and what was taken. */
function holdingOf(db: Db, r: PricedRow, today: Day): Sum | null {
  if (r.price === null) return null;
  const began = sql<{ day: Day | null }>(
    db,
    "SELECT min(day) AS day FROM consigned_layer WHERE agreement_item = ?",
  ).get(r.id)!.day;
  if (began === null || began >= today) return null;
  const since = laterOf(began, yearBack(today));
  const { unitDays } = sql<{ unitDays: number }>(
    db,
    `SELECT coalesce(sum(quantity * (julianday(@today) - julianday(max(day, @since)))), 0) AS unitDays FROM (
       SELECT day, quantity FROM consigned_layer WHERE agreement_item = @id
       UNION ALL SELECT t.day, -t.quantity FROM consigned_take t JOIN consigned_layer y ON y.id = t.layer WHERE y.agreement_item = @id)`,
  ).get({ id: r.id, today, since })!;
  const days = daysBetween(since, today);
  return holdingSum(
    { unitDays: Math.round(unitDays), days, price: r.price, rate: theCompany(db).holdingRate, since },
    r.unit,
    r.currency,
  );
}

/** What needs to be asked for, by agreement: below the least, with what is on its way counted. */
export interface RefillNeed {
  agreementItem: number;
  item: ItemId;
  code: string;
  name: string;
  unit: string;
  here: number;
  onItsWay: number;
  least: number;
  most: number;
  pack: number;
  ask: number;
}

/** What their agreements say should be asked for: by agreement, only where it is below the least. */
export function refillNeeds(db: Db, today: Day, store: StoreId | null = null): Map<number, RefillNeed[]> {
  const rows = sql<RefillNeed & { agreement: number }>(
    db,
    `SELECT x.id AS agreementItem, a.id AS agreement, x.item, i.code, i.name, u.name AS unit, coalesce(y.here, 0) AS here, coalesce(w.coming, 0) AS onItsWay, x.least, x.most, x.pack, 0 AS ask
     FROM agreement a JOIN agreement_item x ON x.agreement = a.id JOIN item i ON i.id = x.item JOIN unit u ON u.code = i.unit
     LEFT JOIN (SELECT agreement_item, sum(rest) AS here FROM consigned_layer WHERE rest > 0 GROUP BY agreement_item) y ON y.agreement_item = x.id
     LEFT JOIN (SELECT agreement_item, sum(quantity - came) AS coming FROM refill_line WHERE open = 1 GROUP BY agreement_item) w ON w.agreement_item = x.id
     WHERE a.state = 'Running' AND a.starts <= @today AND a.ends >= @today AND x.gone = 0 AND (@store IS NULL OR a.store = @store) AND coalesce(y.here, 0) + coalesce(w.coming, 0) < x.least
     ORDER BY a.id, i.code`,
  ).all({ today, store });
  const needs = new Map<number, RefillNeed[]>();
  for (const { agreement, ...r } of rows)
    needs.set(agreement, [...(needs.get(agreement) ?? []), { ...r, ask: refillOf(r) }]);
  return needs;
}
