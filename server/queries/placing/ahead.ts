import { addDays, type Day, daysBetween } from "../../../core/calendar/day";
import type { StoreId, SupplierId } from "../../../core/ids";
import { expect, project, type Stir } from "../../../core/needs/projection";
import { stock } from "../../../core/numbers/quantity";
import { daysToUse } from "../../../core/placing/ahead";
import type { Ahead } from "../../../core/placing/fill-up";
import type { PlacedRow } from "../../../core/placing/problem";
import { type Db, sql } from "../../db/open";
import type { Need, PlanFor } from "../needs/need";
import { type Ground, groundOf, readPair, stockNeed } from "../needs/plan";
import { readNeeds } from "../needs/pool";
import type { Pair } from "../needs/positions";
import { usedIn } from "../needs/usage";
import { type BenchSheet, planOfBench } from "./bench";
import { readMarket, usedLately } from "./offers";

/** So far one looks for what could be brought forward. */
export const DAYS_AHEAD = 28;

/** A need that could fill an order up, and what bringing it forward would do. */
export interface AheadNeed extends Ahead {
  need: Need;
  /** "raise": more of a row that lies here; "lay out": needed now, too; "note": falls due only later. */
  how: "raise" | "lay out" | "note";
}

/**
 * What a supplier sells and a store will need within four weeks at its usual use, beside what lies on benches: needs of
 * today that are not laid out, stock that will fall below its reorder point, and four weeks' use more of what lies here.
 */
export function readAhead(
  db: Db,
  sheet: BenchSheet,
  { supplier, store }: { supplier: SupplierId; store: StoreId },
  today: Day,
  hour: number,
): AheadNeed[] {
  const plan = planOfBench(sheet.head, today, hour);
  const lying = new Set(
    sql<{ need: string }>(db, "SELECT need FROM bench_row")
      .all()
      .map((r) => r.need),
  );
  const pairs = sql<Pair>(
    db,
    `SELECT p.item, p.store FROM item_store p JOIN sourcing c ON c.item = p.item AND c.supplier = ? AND c.active = 1
     JOIN item i ON i.id = p.item AND i.active = 1 WHERE p.store = ?`,
  ).all(supplier, store);
  const sold = new Set(pairs.map((p) => p.item));
  const now = readNeeds(db, plan).filter((n) => n.store === store && n.item !== null && sold.has(n.item));
  const known = new Set(now.map((n) => n.key));
  const here = new Map(sheet.problem.rows.map((r) => [r.id, r]));
  const g = groundOf(db, { ...plan, asOf: addDays(plan.asOf, DAYS_AHEAD) }, false);
  const later = pairs.map((pair) => usedUp(g, pair, plan)).filter((n) => n !== null);
  const market = readMarket(db, [...now, ...later], plan);
  const found: AheadNeed[] = [];
  const put = (need: Need, how: AheadNeed["how"], id: string, wanted: number, early?: number) => {
    const offers = market.offersFor(need).map((f) => f.offer);
    const arrives = offers.find((o) => o.supplier === supplier)?.arrives;
    const row: PlacedRow = {
      id,
      name: how === "raise" ? `more ${need.name}` : need.name,
      item: `i${need.item}`,
      store,
      wanted: stock(wanted),
      stockUnit: need.stockUnit,
      maySplit: false,
      locked: null,
      use: usedLately(need),
      preferred: need.supplier?.id ?? null,
      offers,
    };
    found.push({
      row,
      need,
      how,
      daysEarly: early ?? (arrives && arrives < need.neededOn ? daysBetween(arrives, need.neededOn) : 0),
    });
  };
  for (const need of now) if (!lying.has(need.key)) put(need, "lay out", need.key, need.wanted);
  for (const need of later) {
    if (!known.has(need.key) && !lying.has(need.key)) put(need, "note", need.key, need.wanted);
  }
  for (const need of now) {
    const row = here.get(need.key);
    const used = need.stock ? need.usage.last30 : 0;
    // More of the same is touched once what is bought now is used up.
    if (row && used > 0 && need.key.startsWith("s:"))
      put(need, "raise", `${need.key}+`, usedIn(DAYS_AHEAD, need.usage), daysToUse(row, row.wanted));
  }
  return found;
}

/** What a pair will need by the day of the plan if it is used as usual until then; null where it lasts. */
function usedUp(g: Ground, pair: Pair, now: PlanFor): Need | null {
  const read = readPair(g, pair);
  const usage = g.usage(pair);
  if (!read || usage.last30 <= 0) return null;
  const use: Stir[] = Array.from({ length: DAYS_AHEAD }, (_, i) => ({
    day: addDays(now.asOf, i + 1),
    // What is used by the end of each day is rounded, never each day by itself.
    quantity: stock(usedIn(i, usage) - usedIn(i + 1, usage)),
    kind: "demand",
    label: "usual use",
    href: "",
    doubtful: false,
  }));
  const stirs = [...read.stirs, ...use];
  const need = stockNeed(g, read.position, read.source, stirs);
  if (!need) return null;
  const levels = project(
    read.position.onHand,
    expect(stirs, now.asOf, now.today),
    now.asOf,
    g.plan.asOf,
    g.countOnOrder,
  );
  const short = levels.find((l) => l.available < read.position.settings.reorderPoint);
  return { ...need, neededOn: short?.day ?? need.neededOn };
}
