// Speed against its floor, each as a ratio within one run: npm run bench, or one part of it: npm run bench -- orders
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { toDay } from "../core/calendar/day";
import type { OrderId } from "../core/ids";
import { openDatabase, sql } from "../server/db/open";
import { usualPlan } from "../server/queries/needs/need";
import { planStock } from "../server/queries/needs/plan";
import { DEMAND, ON_ORDER, POSITIONS, SOURCES } from "../server/queries/needs/positions";
import { readOrder } from "../server/queries/orders/order";
import { readComingIn, readCountSheet } from "../server/queries/receiving/dock";
import { answersBench } from "./answers";
import { fill, SIZE } from "./company";
import { consignedBench } from "./consigned";
import { dockBench } from "./dock";
import { filesBench } from "./files";
import { insightBench } from "./insight";
import { print, time } from "./measure";
import { needsBench } from "./needs";
import { ordersBench } from "./orders";
import { pageRatio } from "./pages";
import { papersBench } from "./papers";
import { choosingBench, placingBench } from "./placing";
import { settleBench } from "./settle";
import { signOffBench } from "./sign-off";
import { stallsBench } from "./stalls";
import { startBench } from "./start";

const TODAY = toDay("2026-11-24");
/** The loaders and pages of a large company, and the size of what a browser loads. */
async function companyBench(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));

  try {
    console.log(
      `Filling a company: ${SIZE.items * SIZE.stores} item-store pairs, ${SIZE.lines} order lines, ${SIZE.movements} movements…`,
    );
    fill(db, TODAY);

    // Needs: the rows it reads, with bare better-sqlite3.
    const bareNeeds = [
      POSITIONS,
      SOURCES,
      DEMAND,
      ON_ORDER,
      "SELECT sourcing, from_quantity, price, valid_from, valid_to FROM price_break",
      "SELECT item, store, day, quantity FROM movement WHERE kind = 'issue' AND day > '2025-10-25'",
    ].map((q) => db.prepare(q));
    const needsFloor = time(() => bareNeeds.map((s) => s.all().length));
    const found = planStock(db, usualPlan(TODAY)).length;
    print(
      `Needs: ${found} of ${SIZE.items * SIZE.stores} worked out`,
      time(() => planStock(db, usualPlan(TODAY))),
      needsFloor,
      3,
    );

    // An order: its head and its lines.
    const orderId = 2400 as OrderId;
    const bareOrder = [
      "SELECT o.*, s.name, t.name AS store_name, w.name AS writer_name FROM purchase_order o JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = o.store JOIN person w ON w.id = o.writer WHERE o.id = ?",
      "SELECT l.*, i.code, u.name AS unit_name FROM order_line l JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item WHERE l.purchase_order = ? ORDER BY l.position",
      "SELECT t.* FROM order_line l JOIN need_tie t ON t.order_line = l.id WHERE l.purchase_order = ?",
      "SELECT * FROM signing WHERE purchase_order = ?",
      "SELECT * FROM receipt WHERE purchase_order = ?",
      "SELECT id FROM mail WHERE purchase_order = ?",
      "SELECT revision FROM order_revision WHERE purchase_order = ?",
    ].map((q) => db.prepare(q));
    const many = (run: () => unknown) => () => {
      for (let i = 0; i < 50; i++) run();
    };
    print(
      "An order's loader, 50 times",
      time(many(() => readOrder(db, orderId))),
      time(many(() => bareOrder.map((s) => s.all(orderId).length))),
      2,
    );

    // The dock: what comes in, and one count sheet.
    const bareDock = db.prepare(
      `SELECT o.id, o.number, s.name, t.name AS store_name, min(l.due) AS due, count(*) AS n FROM purchase_order o
       JOIN order_line l ON l.purchase_order = o.id AND l.open = 1 JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = o.store
       WHERE o.stage = 'placed' AND o.store = ? GROUP BY o.id ORDER BY due`,
    );
    const bareSheet = bareOrder.slice(0, 2).concat(db.prepare("SELECT * FROM receipt WHERE purchase_order = ?"));
    const dock = () => [readComingIn(db, 1).length, readCountSheet(db, orderId)?.lines.length];
    print(
      "The dock's loaders",
      time(dock),
      time(() => [bareDock.all(1).length, bareSheet.map((s) => s.all(orderId).length)]),
      2,
    );

    // Pages, served by the built application, against an empty page of the same server.
    db.pragma("wal_checkpoint(TRUNCATE)");
    for (const { path, took, floor } of await pageRatio(folder)) print(`Server time of ${path}`, took, floor, 3);

    // Plans that a screen waits for.
    const plan = sql<{ detail: string }>(db, `EXPLAIN QUERY PLAN ${ON_ORDER} AND l.item = 1 AND l.store = 1`)
      .all()
      .map((p) => p.detail);
    console.log(`Plan of "on order" for one pair: ${plan.join("; ")}`);

    const assets = "build/client/assets";
    const scripts = readdirSync(assets).filter((f) => f.endsWith(".js"));
    const all = scripts.reduce((a, f) => a + gzipSync(readFileSync(join(assets, f))).length, 0);
    console.log(
      `All ${scripts.length} scripts of every page together: ${(all / 1024).toFixed(0)} KB compressed; a first load takes a part of them (aim 220 KB).`,
    );
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

const PARTS = {
  company: companyBench,
  orders: () => ordersBench(TODAY),
  papers: () => papersBench(TODAY),
  needs: () => needsBench(TODAY),
  placing: placingBench,
  files: filesBench,
  stalls: () => stallsBench(TODAY),
  start: startBench,
  "sign-off": () => signOffBench(TODAY),
  answers: () => answersBench(TODAY),
  dock: () => dockBench(TODAY),
  consigned: () => consignedBench(TODAY),
  settle: () => settleBench(TODAY),
  insight: () => insightBench(TODAY),
  choosing: () => choosingBench(TODAY),
};
type Part = keyof typeof PARTS;
const wanted = process.argv.slice(2).filter((a): a is Part => a in PARTS);
for (const part of wanted.length ? wanted : (Object.keys(PARTS) as Part[])) await PARTS[part]();
