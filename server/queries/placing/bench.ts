import { createHash } from "node:crypto";
import type { Day } from "../../../core/calendar/day";
import type { BenchId, ItemId, OrderId, StoreId, SupplierId } from "../../../core/ids";
import type { Run } from "../../../core/needs/run";
import { unitPrice } from "../../../core/numbers/money";
import type { StockQty } from "../../../core/numbers/quantity";
import { purchase, stock } from "../../../core/numbers/quantity";
import { type Choice, partOf } from "../../../core/placing/choice";
import type { Joined, PlacedRow, PlacingProblem } from "../../../core/placing/problem";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import type { Need, NeedSource, PlanFor } from "../needs/need";
import { readNeeds } from "../needs/pool";
import { readSource } from "../needs/positions";
import { byKey } from "../needs/query";
import { orderName, readOrderLines } from "../orders/order";
import { priceRecords } from "../prices";
import { dueOfNeed, levelsOf, type Market, readMarket, usedLately } from "./offers";

export interface BenchHead {
  id: BenchId;
  name: string;
  maker: string;
  made: string;
  version: number;
  run: Run;
  asOf: Day | null;
  cleared: string | null;
  /** So many days of use may be bought beyond what is needed. */
  aheadDays: number;
}

/** What the grid shows of a row beside its offers. */
export interface BenchRow {
  key: string;
  code: string;
  storeName: string;
  unit: string;
  /** The day asked for, or on which stock runs out; else the one on which it falls below its reorder point. */
  neededOn: Day;
  /** Nobody goes without on that day: it is a warning. */
  warning: boolean;
  source: NeedSource;
  forJob: string | null;
  missesBy: number;
  parts: { by: string; href: string | null; wanted: StockQty; neededOn: Day }[];
  /** As much as the need says; the row may carry another quantity. */
  asked: StockQty;
  typed: boolean;
  locked: boolean;
  version: number;
  /** Who chose last, and when. */
  by: string;
  at: string;
  item: ItemId | null;
  store: StoreId;
  /** The sourcing record behind each supplier's offer. */
  sourcings: Record<number, number>;
}

/** A draft that lines for its supplier and store could join. */
export interface OpenDraft {
  id: OrderId;
  name: string;
  supplier: SupplierId;
  store: StoreId;
  lines: number;
  net: number;
  currency: string;
  written: string;
  joined: boolean;
}

export interface BenchSheet {
  head: BenchHead;
  problem: PlacingProblem;
  rows: Record<string, BenchRow>;
  choices: Record<string, Choice[]>;
  /** Suppliers chosen before the last change. */
  former: Record<string, number[]>;
  /** Laid out, but not needed any more or taken by somebody else. */
  gone: { key: string; name: string; version: number }[];
  /** Chosen suppliers who do not sell it any more, each with why. */
  lost: { key: string; says: string }[];
  drafts: OpenDraft[];
  /** Names the problem: plans of another problem are of before. */
  mark: string;
}

const HEAD = `
  SELECT b.id, b.name, p.name AS maker, b.made, b.version, b.run, b.as_of AS asOf, b.cleared, b.ahead_days AS aheadDays
  FROM bench b JOIN person p ON p.id = b.maker WHERE b.id = ?`;

export const readBenchHead = (db: Db, id: BenchId) => sql<BenchHead>(db, HEAD).get(id) ?? null;

export const planOfBench = (head: Pick<BenchHead, "run" | "asOf">, today: Day, hour: number): PlanFor => ({
  today,
  hour,
  run: head.run,
  asOf: head.asOf && head.asOf > today ? head.asOf : today,
});

interface StoredRow {
  need: string;
  name: string;
  wanted: StockQty | null;
  maySplit: number;
  locked: number;
  version: number;
  by: string;
  at: string;
}
interface StoredPart extends Choice {
  need: string;
  former: number;
}

/** A bench with everything that its totals and plans are worked out from. Null where there is none. */
export function readBench(db: Db, id: BenchId, today: Day, hour: number): BenchSheet | null {
  const head = readBenchHead(db, id);
  if (!head) return null;
  const plan = planOfBench(head, today, hour);
  const stored = sql<StoredRow>(
    db,
    `SELECT r.need, r.name, r.wanted, r.may_split AS maySplit, r.locked, r.version, p.name AS by, r.at
     FROM bench_row r JOIN person p ON p.id = r.person WHERE r.bench = ? ORDER BY r.position`,
  ).all(id);
  const index = byKey(readNeeds(db, plan));
  const needs = stored.map((r) => index.get(r.need)).filter((n) => n !== undefined);
  const market = readMarket(db, needs, plan);
  const choices: Record<string, Choice[]> = {};
  const former: Record<string, number[]> = {};
  const parts = sql<StoredPart>(
    db,
    `SELECT p.need, p.supplier, p.share, p.buy, p.former FROM bench_part p JOIN bench_row r ON r.need = p.need WHERE r.bench = ? ORDER BY p.need, p.share DESC`,
  ).all(id);
  for (const { need, former: was, ...part } of parts) {
    if (was) former[need] = [...(former[need] ?? []), part.supplier];
    else choices[need] = [...(choices[need] ?? []), part];
  }
  const rows: Record<string, BenchRow> = {};
  const placed: PlacedRow[] = [];
  const gone: BenchSheet["gone"] = [];
  for (const r of stored) {
    const need = index.get(r.need);
    if (!need) {
      gone.push({ key: r.need, name: r.name, version: r.version });
      continue;
    }
    const { row, about } = rowOf(market, need, r, choices[r.need] ?? []);
    placed.push(row);
    rows[r.need] = about;
  }
  const drafts = readOpenDrafts(db, id, placed);
  const joined = drafts.filter((d) => d.joined).map((d) => joinedOf(db, d, placed, market, plan));
  const suppliers = new Set([
    ...placed.flatMap((r) => r.offers.map((o) => o.supplier)),
    ...joined.map((j) => j.supplier),
  ]);
  const problem: PlacingProblem = {
    home: theCompany(db).currency,
    stores: Object.fromEntries(needs.map((n) => [n.store, n.storeName])),
    rows: placed,
    suppliers: [...suppliers].map((s) => market.terms(s)),
    joined,
    ahead: { days: head.aheadDays, rate: theCompany(db).holdingRate },
  };
  return {
    head,
    problem,
    rows,
    choices,
    former,
    gone,
    lost: lostOf(db, placed, choices),
    drafts,
    mark: rowMarkOf(problem),
  };
}

function lostOf(db: Db, rows: readonly PlacedRow[], choices: Record<string, Choice[]>): BenchSheet["lost"] {
  const lost: BenchSheet["lost"] = [];
  for (const row of rows) {
    for (const c of choices[row.id] ?? []) {
      if (row.offers.some((o) => o.supplier === c.supplier)) continue;
      const { name, blocked } = sql<{ name: string; blocked: string }>(
        db,
        "SELECT name, blocked FROM supplier WHERE id = ?",
      ).get(c.supplier)!;
      const why = blocked ? `is blocked (${blocked})` : "does not sell it any more";
      lost.push({ key: row.id, says: `${row.name}: ${name} ${why}. Choose another supplier.` });
    }
  }
  return lost;
}

/** Two problems of the same mark have the same plans. */
export const rowMarkOf = (problem: PlacingProblem): string =>
  createHash("sha256").update(JSON.stringify(problem)).digest("base64url").slice(0, 22);

function rowOf(
  market: Market,
  need: Need,
  r: StoredRow,
  chosen: readonly Choice[],
): { row: PlacedRow; about: BenchRow } {
  const found = market.offersFor(need);
  const row: PlacedRow = {
    id: need.key,
    name: need.name,
    item: need.item === null ? need.key : `i${need.item}`,
    store: need.store,
    wanted: r.wanted ?? need.wanted,
    stockUnit: need.stockUnit,
    maySplit: r.maySplit === 1,
    locked: null,
    use: usedLately(need),
    preferred: need.supplier?.id ?? found[0]?.offer.supplier ?? null,
    offers: found.map((f) => f.offer),
  };
  const locked = r.locked ? chosen.map((c) => partOf(row, c)).filter((p) => p !== null) : [];
  if (locked.length) row.locked = locked;
  return {
    row,
    about: {
      key: need.key,
      code: need.code,
      storeName: need.storeName,
      unit: need.stockUnit,
      neededOn: dueOfNeed(need) ?? need.neededOn,
      warning: dueOfNeed(need) === null,
      source: need.source,
      forJob: need.forJob,
      missesBy: need.missesBy,
      parts: need.parts.map(({ by, href, wanted, neededOn }) => ({ by, href, wanted, neededOn })),
      asked: need.wanted,
      typed: r.wanted !== null,
      locked: r.locked === 1,
      version: r.version,
      by: r.by,
      at: r.at,
      item: need.item,
      store: need.store,
      sourcings: Object.fromEntries(
        found.filter((f) => f.sourcing !== null).map((f) => [f.offer.supplier, f.sourcing!]),
      ),
    },
  };
}

/** Drafts to suppliers and stores that the rows of a bench could go to; a discount on a whole order is left to the hand. */
function readOpenDrafts(db: Db, bench: BenchId, rows: readonly PlacedRow[]): OpenDraft[] {
  const wanted = new Set(rows.flatMap((r) => r.offers.map((o) => `${o.supplier}/${r.store}`)));
  return sql<Omit<OpenDraft, "joined" | "name"> & { number: string | null; joined: number }>(
    db,
    `SELECT o.id, o.number, o.supplier, o.store, o.net, o.currency, o.written,
            (SELECT count(*) FROM order_line l WHERE l.purchase_order = o.id) AS lines,
            EXISTS (SELECT 1 FROM bench_join j WHERE j.bench = ? AND j.purchase_order = o.id) AS joined
     FROM purchase_order o JOIN supplier s ON s.id = o.supplier AND s.currency = o.currency
     WHERE o.stage = 'draft' AND o.kind IN ('one-off', 'call-off') AND o.discount = 0 ORDER BY o.id DESC`,
  )
    .all(bench)
    .filter((d) => wanted.has(`${d.supplier}/${d.store}`))
    .map(({ number, joined, ...d }) => ({ ...d, name: orderName(d.id, number), joined: joined === 1 }));
}

/** A draft as a placing counts it: lines of items that stand on the bench share their breaks, the others only count. */
function joinedOf(db: Db, draft: OpenDraft, rows: readonly PlacedRow[], market: Market, plan: PlanFor): Joined {
  const shared = new Set(rows.filter((r) => r.store === draft.store).map((r) => r.item));
  const terms = market.terms(draft.supplier);
  const lines = readOrderLines(db, draft.id, draft.currency);
  const follows = lines.filter((l) => l.sourcing !== null && shared.has(`i${l.item}`));
  const others = lines.filter((l) => !follows.includes(l));
  return {
    supplier: draft.supplier,
    store: draft.store,
    goods: others.reduce((a, l) => a + l.net, 0),
    rows: terms.rate === null ? [] : follows.map((l) => lineRow(db, l, draft, plan)),
  };
}

function lineRow(db: Db, line: ReturnType<typeof readOrderLines>[number], draft: OpenDraft, plan: PlanFor): PlacedRow {
  const source = readSource(db, line.sourcing!);
  const levels = levelsOf(priceRecords(db, line.sourcing!, plan.today), plan.today);
  const fixed = line.priceSource.kind === "typed" || line.blanketLine !== null;
  return {
    id: `line:${line.id}`,
    name: line.words,
    item: `i${line.item}`,
    store: draft.store,
    wanted: stock(0),
    stockUnit: line.stockUnit ?? line.unit,
    maySplit: false,
    locked: [{ supplier: draft.supplier, buy: purchase(line.quantity) }],
    use: null,
    preferred: draft.supplier,
    offers: [
      {
        supplier: draft.supplier,
        packing: source!.packing,
        // A price that was typed or called off stays, whatever is reached; the quantity counts for it all the same.
        levels: fixed ? levels.map((l) => ({ ...l, price: unitPrice(line.price ?? 0) })) : levels,
        fixed,
        standing: line.standing,
        discount: line.discount,
        arrives: line.required,
        lateBy: 0,
      },
    ],
  };
}

export interface BenchRowHead {
  id: number;
  name: string;
  maker: string;
  made: string;
  rows: number;
  chosen: number;
  lastBy: string | null;
  lastAt: string | null;
}

/** Benches that are not put away, the newest first. */
export const readBenches = (db: Db): BenchRowHead[] =>
  sql<BenchRowHead>(
    db,
    `SELECT b.id, b.name, p.name AS maker, b.made, count(r.need) AS rows,
            (SELECT count(DISTINCT q.need) FROM bench_part q JOIN bench_row x ON x.need = q.need WHERE x.bench = b.id AND q.former = 0) AS chosen,
            (SELECT w.name FROM bench_row x JOIN person w ON w.id = x.person WHERE x.bench = b.id ORDER BY x.at DESC LIMIT 1) AS lastBy,
            max(r.at) AS lastAt
     FROM bench b JOIN person p ON p.id = b.maker LEFT JOIN bench_row r ON r.bench = b.id
     WHERE b.cleared IS NULL GROUP BY b.id ORDER BY b.id DESC`,
  ).all();
