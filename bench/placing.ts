import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import loadHighs from "highs";
import type { Day } from "../core/calendar/day";
import { placingFrom } from "../core/placing/choice";
import { madeUp } from "../core/placing/made-up";
import { lpText, type Measure, modelOf } from "../core/placing/model";
import { type PlacingProblem, preferredPlacing, type RowPart } from "../core/placing/problem";
import { landedAt, reckonPlacing, rowsByOrder } from "../core/placing/reckon";
import { layOutBench } from "../server/acts/placing/lay-out";
import { readPerson } from "../server/auth/sessions";
import { openDatabase, sql } from "../server/db/open";
import { dismissCrew, inWorker } from "../server/jobs/crew";
import { usualPlan } from "../server/queries/needs/need";
import { readNeeds } from "../server/queries/needs/pool";
import { fill, type Size } from "./company";
import { print, time } from "./measure";
import { inChromium } from "./scrolling";
import { served } from "./serve";

const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1]!;

/** The solver alone on the model as it is exported, in milliseconds. */
async function bare(problem: PlacingProblem): Promise<number> {
  const highs = await loadHighs();
  return highs.withModel({ format: "lp", data: lpText(modelOf(problem), "cost") }, (m) => {
    m.options.set({ output_flag: false, mip_rel_gap: 0, mip_abs_gap: 0.99, random_seed: 7 });
    const from = performance.now();
    m.run();
    return performance.now() - from;
  });
}

/** Lowest cost in a worker, as the Bench asks for it; and how long this thread stood still meanwhile. */
async function planned(
  problem: PlacingProblem,
  seconds: number,
  measures: readonly Measure[] = ["cost"],
  onPart: (cost: number, at: number) => void = () => {},
) {
  let still = 0;
  let last = performance.now();
  const pulse = setInterval(() => {
    still = Math.max(still, performance.now() - last - 5);
    last = performance.now();
  }, 5);
  const from = performance.now();
  const { solved } = await inWorker(
    "place",
    { problem, measures, seconds },
    {
      onPart: (part) => {
        if ("placing" in part) onPart(reckonPlacing(problem, part.placing).cost, performance.now() - from);
      },
    },
  );
  clearInterval(pulse);
  return { took: performance.now() - from, still, solved };
}

/** Placing needs: plans against the bare solver, a large bench, and a changed choice. */
export async function placingBench(): Promise<void> {
  const small = [1, 2, 3, 4, 5].map((seed) =>
    madeUp({ seed, rows: 120, suppliers: 12, offers: [4, 8], minimums: true }),
  );
  await planned(small[0]!, 60); // the worker starts once, and loads the solver
  const floors: number[] = [];
  const tooks: number[] = [];
  const stills: number[] = [];
  for (const p of small) {
    floors.push(await bare(p));
    const { took, still, solved } = await planned(p, 60);
    if (!solved?.proved) throw new Error("A plan of 120 needs was not proved.");
    tooks.push(took);
    stills.push(still);
  }
  const ratios = tooks.map((t, i) => t / floors[i]!);
  print("Lowest cost proved, 120 needs × 12 suppliers", median(tooks), median(floors), 3, "solver");
  console.log(
    `  ratios of five problems ${ratios.map((r) => r.toFixed(2)).join(", ")}; the server stood still ${Math.max(...stills).toFixed(0)} ms at the longest meanwhile`,
  );

  for (const [what, ahead] of [
    ["Fewest orders proved, 120 × 12", undefined],
    ["The same, with 30 days of use bought ahead", 30],
  ] as const) {
    const fewest: number[] = [];
    for (const seed of [1, 2, 3, 4, 5]) {
      const p = madeUp({ seed, rows: 120, suppliers: 12, offers: [4, 8], minimums: true, ahead });
      const { took, solved } = await planned(p, 60, ["orders", "cost"]);
      if (!solved?.proved) throw new Error("Fewest orders for 120 needs was not proved.");
      fewest.push(took);
    }
    print(what, median(fewest), median(floors), 10, "solver, lowest cost");
  }

  const large = madeUp({ seed: 5, rows: 1_000, suppliers: 40, offers: [4, 10], minimums: true, stores: 3 });
  const found: [number, number][] = [];
  const { took, solved } = await planned(large, 120, ["cost"], (cost, at) => found.push([cost, at]));
  const best = solved ? reckonPlacing(large, solved.placing).cost : 0;
  const first = found.find(([cost]) => cost <= best * 1.05);
  console.log(
    `1,000 needs × 40 suppliers: ${found.length} plans, the first after ${(found[0]![1] / 1000).toFixed(1)} s, within 5 % of the best after ${((first?.[1] ?? took) / 1000).toFixed(1)} s; ${solved?.proved ? "proved" : "stopped"} after ${(took / 1000).toFixed(1)} s`,
  );

  // A changed choice: every total, and every cell that is in sight.
  const p = small[0]!;
  let turn = 0;
  const change = () => {
    const placing = { ...preferredPlacing(p) } as Record<string, readonly RowPart[]>;
    const row = p.rows[turn++ % p.rows.length]!;
    const offer = row.offers[turn % row.offers.length]!;
    Object.assign(placing, placingFrom([row], { [row.id]: [{ supplier: offer.supplier, share: null, buy: null }] }));
    const r = reckonPlacing(p, placing);
    const there = rowsByOrder(p, placing);
    for (const seen of p.rows.slice(0, 24))
      for (const o of seen.offers)
        landedAt(p, placing, there, seen, { supplier: o.supplier, buy: placing[seen.id]![0]!.buy });
    return r.cost;
  };
  print("A changed choice: all totals, cells in sight", time(change, 60), 1000 / 60, 1, "frame");
  await dismissCrew();
}

const SMALL: Size = {
  items: 300,
  stores: 1,
  suppliers: 12,
  lines: 600,
  openEvery: 12,
  movements: 3_000,
  demand: 0,
  short: 1,
};

/** The Bench in Chromium with 120 needs that four to eight suppliers sell: choices moved with the keys. */
export async function choosingBench(today: Day): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    fill(db, today, SMALL);
    sql(
      db,
      `INSERT INTO sourcing (item, supplier, unit, factor, lead_days, rank)
       SELECT i.id, s.id, c.unit, c.factor, c.lead_days + s.id % 5, 9 FROM item i JOIN sourcing c ON c.item = i.id AND c.rank = 1 JOIN supplier s
       WHERE (i.id + s.id) % 2 = 0 ON CONFLICT DO NOTHING`,
    ).run();
    sql(
      db,
      `INSERT INTO price_break (sourcing, from_quantity, price)
       SELECT c.id, f.value, coalesce((SELECT min(b.price) FROM price_break b JOIN sourcing o ON o.id = b.sourcing WHERE o.item = c.item), 1000000) * (110 - c.supplier - f.key * 6) / 100
       FROM sourcing c JOIN json_each('[10000,50000,120000]') f WHERE c.rank = 9`,
    ).run();
    sql(db, "UPDATE supplier SET freight = 4000, freight_free_from = 200000").run();
    const person = readPerson(db, 1)!;
    const needs = readNeeds(db, usualPlan(today, 9)).slice(0, 120);
    const laid = layOutBench(
      { db, person, day: today, hour: 9, now: `${today}T09:00:00.000Z`, key: "bench-of-120" },
      { needs: needs.map((n) => n.key), name: "120 needs" },
    );
    if (!laid.ok) throw new Error(laid.problems[0]!.says);
    db.close();
    await served(folder, ({ url, cookie }) =>
      inChromium({ url, cookie, path: `/bench/${laid.value.bench}` }, async (page, measure) => {
        await page.waitForTimeout(3_000); // the plans are worked out once
        await measure("Moving choices among 120 needs", async () => {
          for (let i = 0; i < 40; i++) {
            await page.keyboard.press(i % 3 === 2 ? "ArrowDown" : i % 2 ? "ArrowLeft" : "ArrowRight");
            await page.waitForTimeout(60);
          }
          await page.waitForTimeout(800);
        });
      }),
    );
  } finally {
    if (db.open) db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
