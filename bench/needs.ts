import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Day } from "../core/calendar/day";
import { openDatabase, sql } from "../server/db/open";
import { dismissCrew } from "../server/jobs/crew";
import { usualPlan } from "../server/queries/needs/need";
import { groundOf, planPair, planStock } from "../server/queries/needs/plan";
import { readPool, settledPool } from "../server/queries/needs/pool";
import { DEMAND, ON_ORDER, POSITIONS, SOURCES } from "../server/queries/needs/positions";
import { readReview } from "../server/queries/needs/review";
import { ALL_SHORT, fill, LARGE } from "./company";
import { print, time } from "./measure";
import { scrollNeeds } from "./scrolling";
import { served } from "./serve";

/** Planning a large company, and its sheet in a browser. */
export async function needsBench(today: Day): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-needs-"));
  try {
    await planning(join(folder, "large"), today);
    await sheet(join(folder, "short"), today);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function planning(folder: string, today: Day): Promise<void> {
  console.log("\nFilling 50,000 item-store pairs, 2,000,000 issues, 300,000 rows of open demand and supply…");
  const db = openDatabase(join(folder, "wharf-tally.db"));
  fill(db, today, LARGE);
  const plan = usualPlan(today, 9);
  // The floor: every row that a plan looks at, read with bare better-sqlite3 and nothing done with it.
  const rows = [
    POSITIONS,
    SOURCES,
    DEMAND,
    ON_ORDER,
    "SELECT sourcing, from_quantity, price, valid_from, valid_to FROM price_break",
    "SELECT item, store, day, quantity FROM movement WHERE kind = 'issue'",
  ].map((q) => db.prepare(q));
  let read = 0;
  const floor = time(() => {
    read = 0;
    for (const s of rows) for (const _ of s.iterate()) read++;
  }, 3);
  let found = 0;
  const took = time(() => {
    found = planStock(db, plan).length;
  }, 3);
  print(`Plan of 50,000 pairs, ${found} needs`, took, floor, 4, `reading its ${read} rows`);

  const begun = performance.now();
  let seen = 0;
  readPool(db, plan);
  let longest = 0;
  let last = performance.now();
  const watch = setInterval(() => {
    longest = Math.max(longest, performance.now() - last - 5);
    last = performance.now();
    seen = Math.max(seen, readPool(db, plan).working?.done ?? 0);
  }, 5);
  await settledPool(db, plan);
  clearInterval(watch);
  print("The same in a worker, with its start", performance.now() - begun, floor, 4, "reading its rows");
  console.log(
    `  meanwhile the server stood still for ${longest.toFixed(0)} ms at the longest; progress was seen up to ${seen}`,
  );

  const pair = sql<{ item: number; store: number }>(db, "SELECT item, store FROM item_store LIMIT 1 OFFSET 777").get()!;
  const move = sql(
    db,
    "INSERT INTO movement (item, store, day, kind, quantity, at) VALUES (?, ?, ?, 'issue', -10000, ?)",
  );
  const bare = db.prepare(`${POSITIONS} AND p.item = ? AND p.store = ?`);
  const one = time(() => {
    move.run(pair.item, pair.store, today, `${today}T10:00:00.000Z`);
    readPool(db, plan);
  }, 9);
  const onePair = time(() => planPair(groundOf(db, plan, false), pair), 9);
  const floorOne = time(() => bare.all(pair.item, pair.store), 9);
  console.log(
    `One movement, written and planned anew: ${one.toFixed(2)} ms; its pair alone ${onePair.toFixed(2)} ms; reading the pair ${floorOne.toFixed(3)} ms; the whole plan would take ${took.toFixed(0)} ms`,
  );

  const review = time(() => readReview(db, today).length, 3);
  print("Reorder points of 50,000 pairs", review, floor, 4, "reading those rows");
  await dismissCrew();
  db.close();
}

async function sheet(folder: string, today: Day): Promise<void> {
  console.log("\nFilling a company in which all 50,000 pairs are short…");
  const db = openDatabase(join(folder, "wharf-tally.db"));
  fill(db, today, ALL_SHORT);
  db.close();
  await served(folder, async ({ url, cookie }) => {
    const empty = await fetch(`${url}/nothing-stands-here`, { headers: { cookie } });
    await empty.text();
    // While the plan is made, another request is asked for again and again.
    let slowest = 0;
    const begun = performance.now();
    await (await fetch(`${url}/needs`, { headers: { cookie } })).text();
    for (;;) {
      const from = performance.now();
      await (await fetch(`${url}/health`)).text();
      slowest = Math.max(slowest, performance.now() - from);
      const { working } = (await (await fetch(`${url}/needs/tick`, { headers: { cookie } })).json()) as {
        working: unknown;
      };
      if (!working) break;
    }
    console.log(
      `50,000 needs planned by the served application in ${((performance.now() - begun) / 1000).toFixed(1)} s; the slowest other answer meanwhile took ${slowest.toFixed(0)} ms`,
    );
    await scrollNeeds(url, cookie);
  });
}
