import { type Day, toDay } from "../../../core/calendar/day";
import type { ItemId, OrderId, OrderLineId, StoreId, SupplierId } from "../../../core/ids";
import { exchanged, lineNet, money, unitPrice } from "../../../core/numbers/money";
import { ONE, purchase } from "../../../core/numbers/quantity";
import { openOfAll, type Scheduled } from "../../../core/orders/schedule";
import {
  type AddedCharge,
  type AnswerDifference,
  answerDifferences,
  newCharge,
  partsLeft,
  type SaidOfLine,
  type SaidPart,
  standingParts,
} from "../../../core/suppliers/answer";
import { readColumn, SaidColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { orderName, worthOf } from "../orders/order";
import { readSchedulesOfLines } from "../orders/schedule";
import { type LineChance, lineChances } from "./chances";

export type AnswerState = "waits" | "taken" | "refused" | "countered" | "replaced";

/** What was said of a line of an order, and what became of it. */
export interface SaidBefore {
  id: number;
  line: OrderLineId;
  position: number;
  name: string;
  unit: string;
  said: SaidOfLine;
  state: AnswerState;
  decided: string | null;
  decidedBy: string | null;
  why: string;
  /** What we propose in its place, or took of it; null where it is all as they said. */
  counter: SaidOfLine | null;
  way: string;
  saidBy: string;
  saidOn: Day;
  at: string;
  writtenBy: string | null;
  /** What came with it. */
  file: number | null;
  fileName: string | null;
}

/** The charges that stand on an order. */
export const chargesOn = (db: Db, order: OrderId): AddedCharge[] =>
  sql<AddedCharge>(
    db,
    "SELECT words, price FROM order_line WHERE purchase_order = ? AND kind = 'charge' AND quantity > closed_short AND price IS NOT NULL",
  ).all(order);

/** The version of an order that holds, which answers speak of; 0 before it is placed. */
export const bindingOf = (db: Db, order: OrderId): number =>
  sql<{ revision: number }>(db, "SELECT coalesce(binding, 0) AS revision FROM purchase_order WHERE id = ?").get(order)
    ?.revision ?? 0;

/** All that was ever said of an order's lines, the newest first. */
export const readSaid = (db: Db, order: OrderId): SaidBefore[] =>
  sql<Omit<SaidBefore, "said" | "counter"> & { said: string; counter: string | null }>(
    db,
    `SELECT w.id, w.order_line AS line, l.position, coalesce(i.name, l.words) AS name, u.name AS unit, w.said, w.state, w.decided, d.name AS decidedBy, w.why, w.counter,
            a.way, a.said_by AS saidBy, a.said_on AS saidOn, a.at, p.name AS writtenBy, f.id AS file, f.name AS fileName
     FROM answer a JOIN answer_line w ON w.answer = a.id JOIN order_line l ON l.id = w.order_line JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item
     LEFT JOIN person d ON d.id = w.decided_by LEFT JOIN person p ON p.id = a.person LEFT JOIN order_file f ON f.id = a.file
     WHERE a.purchase_order = ? ORDER BY a.id DESC, l.position`,
  )
    .all(order)
    .map((r) => ({
      ...r,
      said: readColumn(SaidColumn, r.said),
      counter: r.counter === null ? null : readColumn(SaidColumn, r.counter),
    }));

interface Row {
  id: number;
  order: OrderId;
  number: string | null;
  version: number;
  supplier: SupplierId;
  supplierName: string;
  storeName: string;
  currency: string;
  rate: number | null;
  line: OrderLineId;
  position: number;
  item: ItemId | null;
  store: StoreId;
  name: string;
  code: string | null;
  unit: string;
  /** Stock units, ten-thousandths, in one purchase unit. */
  perUnit: number;
  quantity: number;
  price: number | null;
  standingDiscount: number;
  discount: number;
  limits: "quantity" | "value" | "both";
  committedValue: number | null;
  /** What was still to come of it when they said it. */
  open: number;
  said: string;
  way: string;
  saidBy: string;
  saidOn: Day;
  at: string;
  remark: string;
  jobs: string | null;
  /** The first day on which a job needs some of the same stock, ISO 8601, and its name behind it. */
  draws: string | null;
}

/** An answer of which something is to be decided: a line, what they say of it, and what it comes to. */
export interface OpenAnswer
  extends Omit<Row, "said" | "draws" | "number" | "limits" | "committedValue" | "standingDiscount"> {
  orderName: string;
  said: SaidOfLine;
  /** What is still to come of it as it stands. */
  standing: SaidPart[];
  differences: AnswerDifference[];
  /** The last day on which some of it was asked for. */
  wanted: Day;
  /** The last day that they say; null where nothing comes. */
  lastSaid: Day | null;
  /** What the line is worth in the order's currency, minor units. */
  netBefore: number;
  netAfter: number;
  /** By how much more (below zero: less) the line costs in home currency, net; null where no rate is known. */
  costs: number | null;
  /** Days, at most, by which some of it comes later than it stands. */
  laterBy: number;
  /** Who draws on the same stock before the last of it would come now: whether they wait is worked out in full. */
  draws: { label: string; due: Day } | null;
  /** How likely the last part is here by the day that was asked for; null where nothing comes. */
  chance: LineChance | null;
}

/** What is to be decided: nobody decides on what has come meanwhile, or on an order that was closed. */
const UNDECIDED = "w.state = 'waits' AND l.open = 1 AND o.stage = 'placed'";

const OPEN = `
  SELECT w.id, o.id AS "order", o.number, o.version, o.supplier, s.name AS supplierName, t.name AS storeName, o.currency, o.rate,
         l.id AS line, l.position, l.item, l.store, coalesce(i.name, l.words) AS name, i.code, u.name AS unit, l.factor AS perUnit, l.quantity, l.price,
         l.standing_discount AS standingDiscount, l.discount, l.limits, l.committed_value AS committedValue,
         w.open, w.said, a.way, a.said_by AS saidBy, a.said_on AS saidOn, a.at, a.remark,
         (SELECT group_concat(DISTINCT coalesce(j.kind || ' ' || j.code || iif(j.vessel = '', '', ', ' || j.vessel), r.number)) FROM need_tie n
            LEFT JOIN job_demand d ON d.id = n.job_demand LEFT JOIN job j ON j.id = d.job
            LEFT JOIN requisition_line q ON q.id = n.requisition_line LEFT JOIN requisition r ON r.id = q.requisition
            WHERE n.order_line = l.id AND n.quantity > 0 AND (j.id IS NOT NULL OR r.id IS NOT NULL)) AS jobs,
         (SELECT d.due || j.kind || ' ' || j.code || iif(j.vessel = '', '', ', ' || j.vessel)
            FROM job_demand d JOIN job j ON j.id = d.job WHERE d.item = l.item AND d.store = l.store AND d.issued < d.quantity AND j.closed IS NULL
            ORDER BY d.due LIMIT 1) AS draws
  FROM answer_line w JOIN answer a ON a.id = w.answer JOIN order_line l ON l.id = w.order_line JOIN purchase_order o ON o.id = a.purchase_order
  JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = l.store JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item
  WHERE ${UNDECIDED}`;

/**
 * Every answer that waits, what costs most first: what somebody goes without, then what somebody waits for longer, what does
 * not come at all, what costs more, and what comes later.
 */
export function readOpenAnswers(db: Db, today: Day, order: OrderId | null = null): OpenAnswer[] {
  const home = theCompany(db).currency;
  const rows = order === null ? sql<Row>(db, OPEN).all() : sql<Row>(db, `${OPEN} AND o.id = ?`).all(order);
  const schedules = schedulesOf(db, rows);
  const chanceOf = lineChances(db, today);
  return rows
    .map((r) => openAnswer(r, schedules.get(r.line)!, chanceOf, home, (o) => chargesOn(db, o)))
    .map((answer): [number, OpenAnswer] => [weight(answer), answer])
    .sort(costlier)
    .map(([, answer]) => answer);
}

/** Orders of which something that was said is to be decided, the one that waits longest first. */
export const ordersAnswered = (
  db: Db,
): { order: OrderId; number: string; supplier: string; lines: number; required: Day }[] =>
  sql<{ order: OrderId; number: string; supplier: string; lines: number; required: Day }>(
    db,
    `SELECT o.id AS "order", o.number, s.name AS supplier, count(*) AS lines, o.required
     FROM answer_line w JOIN answer a ON a.id = w.answer JOIN order_line l ON l.id = w.order_line
     JOIN purchase_order o ON o.id = a.purchase_order JOIN supplier s ON s.id = o.supplier
     WHERE ${UNDECIDED} GROUP BY o.id ORDER BY min(a.id)`,
  ).all();

/** How many lines wait for a decision, of one order or of all. */
export const countOpenAnswers = (db: Db, order: OrderId | null = null): number =>
  sql<{ n: number }>(
    db,
    `SELECT count(*) AS n FROM answer_line w JOIN order_line l ON l.id = w.order_line JOIN purchase_order o ON o.id = l.purchase_order
     WHERE ${UNDECIDED} AND (@order IS NULL OR o.id = @order)`,
  ).get({ order })!.n;

const weight = (a: OpenAnswer): number => {
  const waits = a.jobs !== null ? 2 : a.draws !== null ? 1.8 : 0;
  if (a.lastSaid === null) return waits + 1.5;
  return a.laterBy > 0 && a.lastSaid > a.wanted ? waits : 0;
};
/** Answers with their weights, which are worked out once for each. */
const costlier = ([v, a]: [number, OpenAnswer], [w, b]: [number, OpenAnswer]): number =>
  w - v || (b.costs ?? 0) - (a.costs ?? 0) || b.laterBy - a.laterBy || a.id - b.id;

/** The schedules of their lines, read at once. */
function schedulesOf(db: Db, rows: readonly Row[]): Map<number, Scheduled[]> {
  const by = new Map<number, Scheduled[]>(rows.map((r) => [r.line, []]));
  for (const { line, ...s } of readSchedulesOfLines(db, [...by.keys()])) by.get(line)!.push(s);
  return by;
}

function openAnswer(
  r: Row,
  schedule: readonly Scheduled[],
  chanceOf: ReturnType<typeof lineChances>,
  home: string,
  chargesOf: (order: OrderId) => AddedCharge[],
): OpenAnswer {
  const kept = readColumn(SaidColumn, r.said);
  const said = { ...kept, parts: kept.parts && partsLeft(kept.parts, r.open - openOfAll(schedule)) };
  const charges = said.charge ? chargesOf(r.order) : [];
  const differences = answerDifferences({ schedule, price: r.price, discount: r.discount, charges }, said);
  const charge = newCharge({ charges }, said);
  const worth = (price: number | null, discount: number, quantity: number) =>
    worthOf(
      {
        price: price === null ? null : unitPrice(price),
        discount,
        quantity: purchase(quantity),
        standing: r.standingDiscount,
        limits: r.limits,
        committedValue: r.committedValue,
      },
      r.currency,
    );
  const after = said.parts ? r.quantity - openOfAll(schedule) + sumOf(said.parts) : r.quantity;
  const netBefore = worth(r.price, r.discount, r.quantity);
  const netAfter =
    worth(said.price ?? r.price, said.discount ?? r.discount, after) +
    (charge ? lineNet(ONE, charge.price, 0, 0, r.currency).minor : 0);
  const more = netAfter - netBefore;
  const lastSaid =
    (said.parts ?? standingParts(schedule))
      .map((p) => p.day)
      .sort()
      .at(-1) ?? null;
  const wanted = schedule
    .map((s) => s.required)
    .sort()
    .at(-1)!;
  const moved = differences.find((d) => d.kind === "days");
  // Each field by its name: spreading thousands of rows costs more than reading them.
  return {
    id: r.id,
    order: r.order,
    version: r.version,
    supplier: r.supplier,
    supplierName: r.supplierName,
    storeName: r.storeName,
    currency: r.currency,
    rate: r.rate,
    line: r.line,
    position: r.position,
    item: r.item,
    store: r.store,
    name: r.name,
    code: r.code,
    unit: r.unit,
    perUnit: r.perUnit,
    quantity: r.quantity,
    price: r.price,
    discount: r.discount,
    open: r.open,
    way: r.way,
    saidBy: r.saidBy,
    saidOn: r.saidOn,
    at: r.at,
    remark: r.remark,
    jobs: r.jobs,
    orderName: orderName(r.order, r.number),
    said,
    standing: standingParts(schedule),
    differences,
    wanted,
    lastSaid,
    draws: drawsBefore(r.draws, lastSaid, differences),
    netBefore,
    netAfter,
    costs: r.rate === null ? null : exchanged(money(more, r.currency), r.rate, home).minor,
    laterBy: moved?.kind === "days" ? Math.max(0, moved.by) : 0,
    chance: lastSaid && chanceOf(r.supplier, r.item, { promised: lastSaid, asked: wanted }),
  };
}

/** The first who needs it before all of it is there, where less of it comes, or later. */
const drawsBefore = (
  draws: string | null,
  lastSaid: Day | null,
  differences: readonly AnswerDifference[],
): OpenAnswer["draws"] => {
  if (draws === null) return null;
  const due = toDay(draws.slice(0, 10));
  const worse = differences.some(
    (d) => d.kind === "cannot" || (d.kind === "days" && d.by > 0) || (d.kind === "quantity" && d.to < d.from),
  );
  const fewer = differences.some((d) => d.kind === "cannot" || d.kind === "quantity");
  return worse && (fewer || lastSaid === null || due < lastSaid) ? { label: draws.slice(10), due } : null;
};

const sumOf = (parts: readonly SaidPart[]) => parts.reduce((a, p) => a + p.quantity, 0);
