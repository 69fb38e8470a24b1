import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { addDays, type Day, toDay } from "../../../core/calendar/day";
import { WEEKS } from "../../../core/insight/ahead";
import { sql } from "../../db/open";
import { type TestHouse, testHouse } from "../../testing";
import { usualPlan } from "../needs/need";
import { readAheadBeside, readOpenParts, readStillToCome } from "./ahead";
import { aheadFile } from "./ahead-file";

const TODAY = toDay("2026-11-24");
const plan = usualPlan(TODAY, 9);
let h: TestHouse;

/** Orders placed with two suppliers, parts of which came. */
beforeAll(() => {
  h = testHouse();
  const suppliers = sql<{ id: number }>(h.db, "SELECT id FROM supplier ORDER BY id LIMIT 2").all();
  const item = h.id("item", "OIL");
  const store = sql<{ id: number }>(h.db, "SELECT id FROM store ORDER BY id").get()!.id;
  const add = (
    n: number,
    supplier: number,
    stage: string,
    parts: [due: number, asked: number, open: number, came: number][],
  ) => {
    const at = "2026-11-02T09:00:00.000Z";
    const order = sql(
      h.db,
      `INSERT INTO purchase_order (number, supplier, store, currency, writer, stage, required, written, placed, rate)
       VALUES (?, ?, ?, 'EUR', ?, ?, ?, ?, ?, 1000000)`,
    ).run(
      `26-9${n}`,
      supplier,
      store,
      h.id("person", "ines"),
      stage,
      TODAY,
      at,
      stage === "draft" ? null : at,
    ).lastInsertRowid;
    const quantity = parts.reduce((a, [, , open, came]) => a + open + came, 0);
    const line = sql(
      h.db,
      `INSERT INTO order_line (purchase_order, position, kind, item, words, unit, factor, quantity, price, price_source, store, due, home_net, tax_rate)
       VALUES (?, 1, 'stocked', ?, 'Oil', 'LTR', 10000, ?, 3100000, '{"kind":"typed"}', ?, ?, ?, 2000)`,
    ).run(order, item, quantity, store, TODAY, 777 * parts.length).lastInsertRowid;
    parts.forEach(([due, asked, open, came], i) => {
      sql(
        h.db,
        "INSERT INTO order_schedule (order_line, position, quantity, requested, promised, received) VALUES (?, ?, ?, ?, ?, ?)",
      ).run(line, i + 1, open + came, addDays(TODAY, asked), addDays(TODAY, due), came);
    });
  };
  add(1, suppliers[0]!.id, "placed", [
    [-9, -10, 20_000, 10_000],
    [3, 3, 10_000, 0],
  ]);
  add(2, suppliers[0]!.id, "placed", [[7 * WEEKS + 20, 5, 40_000, 0]]);
  add(3, suppliers[1]!.id, "placed", [[12, 14, 70_000, 0]]);
  add(4, suppliers[1]!.id, "draft", [[12, 14, 70_000, 0]]);
});
afterAll(() => h.close());

describe("what is still to come, from the papers", () => {
  it("is what placed orders have open, each part at its share of the line", () => {
    // 1,554 for 4.0: 2.0 and 1.0 of it are open.
    expect(
      readOpenParts(h.db, TODAY)
        .map((p) => [p.number, p.value, p.billed])
        .sort(),
    ).toEqual([
      ["26-91", 389, 467], // 388.5 and 77.8
      ["26-91", 777, 932], // and 155.4
      ["26-92", 777, 932],
      ["26-93", 777, 932],
    ]);
  });

  it("adds up to the same by week and by supplier, and stands late where it is", () => {
    const weeks = readStillToCome(h.db, { by: "week" }, plan, true);
    const suppliers = readStillToCome(h.db, { by: "supplier" }, plan, true);
    const all = readOpenParts(h.db, TODAY).reduce((a, p) => a + p.value, 0);
    for (const { rows } of [weeks, suppliers])
      expect((rows as { coming: number }[]).reduce((a, r) => a + r.coming, 0)).toBe(all); // rows of both have it
    const late = (weeks.rows as { key: string; coming: number; moved: number }[]).find((r) => r.key === "late"); // rows by week
    expect(late).toMatchObject({ coming: 777, moved: 777 });
    expect(suppliers.rows[0]).toMatchObject({ coming: 389 + 777 + 777, late: [0, 777, 0], moved: 777, parts: 3 });
  });

  it("opens each row to its papers, and says nothing of debts to whoever does not see them", () => {
    const all = readStillToCome(h.db, { by: "week" }, plan, false);
    expect(all.by === "week" && all.rows.every((r) => r.owed === 0 && r.toBill === 0 && r.out === 0)).toBe(true);
    const beside = readAheadBeside(h.db, { by: "week" }, "late", TODAY, false);
    expect(beside).toMatchObject({ found: 1, owed: null, toBill: null });
    expect(beside.parts[0]).toMatchObject({ number: "26-91", value: 777, due: addDays(TODAY, -9) as Day });
    expect(aheadFile(h.db, all, false).json()[0]).toEqual({
      from: "",
      to: "2026-11-23",
      coming_eur: "7.77",
      later_than_asked_eur: "7.77",
    });
    expect(Object.keys(aheadFile(h.db, all, true).json()[0]!)).toContain("out_eur");
  });

  it("has jobs and budget lines with a row for each, and files of them", () => {
    const jobs = readStillToCome(h.db, { by: "job" }, plan, true);
    expect(jobs.rows.map((r) => r.key)).toEqual(
      expect.arrayContaining(
        sql<{ job: string }>(
          h.db,
          "SELECT DISTINCT CAST(d.job AS TEXT) AS job FROM job_demand d JOIN job j ON j.id = d.job WHERE d.issued < d.quantity AND j.closed IS NULL",
        )
          .all()
          .map((r) => r.job),
      ),
    );
    const budgets = readStillToCome(h.db, { by: "budget" }, plan, true);
    for (const a of [jobs, budgets]) expect(aheadFile(h.db, a, true).csv().split("\n")).toHaveLength(a.rows.length + 2);
  });
});
