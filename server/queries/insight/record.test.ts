import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { toDay } from "../../../core/calendar/day";
import type { OrderLineId, SupplierId } from "../../../core/ids";
import { on } from "../../acts/consigned/testing";
import { planWith, tryPlanWith } from "../../acts/insight/plan-with";
import { receiveGoods } from "../../acts/receiving/receive-goods";
import { orderAt, placedOrder } from "../../acts/receiving/testing";
import { enterTheirs, exampleOrder, theirs } from "../../acts/settling/testing";
import { sql } from "../../db/open";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { usualPlan } from "../needs/needs";
import { readSupplierRecord, readSupplierRecords, recordAsked } from "./record";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const YEAR = recordAsked(new URLSearchParams("from=2026-01-01&to=2026-12-31"), TODAY);
const theirRecord = () => readSupplierRecord(h.db, h.id("supplier", "TTL") as SupplierId, YEAR); // of the test's company

/** An order that was sent, asked for and promised on some days; what comes of it, on others. */
async function dealt(
  code: string,
  quantity: string,
  {
    sent,
    asked,
    said,
    came,
  }: { sent: string; asked: string; said: [day: string, at: string][]; came: [day: string, much: string][] },
) {
  const { order, lines } = await placedOrder(h, "TTL", [{ code, quantity, price: "600" }]);
  const line = lines[0] as OrderLineId; // its only one
  sql(h.db, "UPDATE purchase_order SET placed = ? WHERE id = ?").run(`${sent}T08:00:00.000Z`, order);
  sql(h.db, "UPDATE order_schedule SET requested = ?, promised = ? WHERE order_line = ?").run(
    asked,
    said.at(-1)?.[0] ?? null,
    line,
  );
  for (const [day, at] of said)
    sql(h.db, "INSERT INTO promise (order_line, quantity, day, at) VALUES (?, ?, ?, ?)").run(line, 10_000, day, at);
  for (const [day, much] of came)
    must(
      receiveGoods(on(h.desk("tobias"), day), {
        ...orderAt(h, order),
        deliveryNote: `N-${order}-${day}`,
        lines: [{ line, counted: much }],
      }),
    );
  return { order, line };
}

describe("a supplier's record", () => {
  it("says how they kept what was asked and promised, whole or in part, moved, and how soon they answered", async () => {
    await dealt("OIL", "4", {
      sent: "2026-10-01",
      asked: "2026-10-10",
      said: [
        ["2026-10-10", "2026-10-01T18:00:00.000Z"],
        ["2026-10-14", "2026-10-08T09:00:00.000Z"],
      ],
      came: [["2026-10-13", "4"]],
    });
    await dealt("ROP", "3", {
      sent: "2026-10-05",
      asked: "2026-10-12",
      said: [],
      came: [
        ["2026-10-12", "1"],
        ["2026-10-19", "2"],
      ],
    });
    const { now, before, rows, loads } = theirRecord();
    expect(loads.map((l) => [l.name, l.day, l.requested, l.promised])).toEqual([
      ["Hydraulic oil", "2026-10-13", "2026-10-10", "2026-10-14"],
      ["Mooring rope", "2026-10-12", "2026-10-12", null],
      ["Mooring rope", "2026-10-19", "2026-10-12", null],
    ]);
    expect(now).toMatchObject({
      promised: { of: 1, all: 1 },
      requested: { of: 1, all: 3 },
      days: { count: 3, mean: (12 + 7 + 14) / 3, ninetieth: 14 },
      inFull: { of: 1, all: 2 },
      moved: { count: 1, days: 4 },
      answered: { count: 1, minutes: 600 },
      price: null,
      aside: { of: 0, all: 3 },
      held: { of: 0, all: 0 },
      received: 7 * 600_00,
      loads: 3,
    });
    expect(rows.requested.map((r) => [r.says, r.against])).toEqual([
      ["7 days late", true],
      ["3 days late", true],
      ["to the day", false],
    ]);
    expect(rows.moved).toMatchObject([{ says: "4 days later", against: true }]);
    // Nothing is known of the year before: no figure is made of it.
    expect(before).toMatchObject({ days: null, promised: { all: 0 }, price: null, received: 0 });
    expect(readSupplierRecords(h.db, YEAR)).toMatchObject([{ name: "Tern & Tallow", figures: now }]);
  });

  it("holds prices against the same days a year before, only of what was bought then, too", async () => {
    const then = {
      sent: "2025-10-01",
      asked: "2025-10-10",
      said: [],
      came: [["2025-10-10", "2"]] as [string, string][],
    };
    const { line } = await dealt("OIL", "2", then);
    sql(h.db, "UPDATE order_line SET price = 600000000 WHERE id = ?").run(line);
    const { order, lines } = await placedOrder(h, "TTL", [
      { code: "OIL", quantity: "3", price: "660" },
      { code: "ROP", quantity: "1", price: "1298" },
    ]);
    must(
      receiveGoods(on(h.desk("tobias"), "2026-10-11"), {
        ...orderAt(h, order),
        deliveryNote: "",
        lines: lines.map((l, i) => ({ line: l, counted: i ? "1" : "3" })),
      }),
    );
    const { now, rows } = theirRecord();
    expect(now.price).toEqual({ earlier: 3 * 600_00, paid: 3 * 660_00 });
    expect(rows.price).toMatchObject([{ words: "Hydraulic oil", minor: 180_00, against: true }]);
  });

  it("knows which invoices were held", async () => {
    const x = await exampleOrder(h);
    must(enterTheirs(h, { lines: theirs(x) }));
    must(enterTheirs(h, { number: "TT-2", lines: [{ line: x.grease, quantity: "1" }] }));
    expect(theirRecord().now.held).toEqual({ of: 1, all: 2 });
  });
});

describe("planning with days that were measured", () => {
  it("says what it would change and changes nothing; then it does", () => {
    const supplier = h.id("supplier", "TTL") as SupplierId; // of the test's company
    const leads = () => sql(h.db, "SELECT lead_days FROM sourcing ORDER BY id").pluck().all();
    const was = leads();
    const tries = tryPlanWith(h.db, supplier, 40, usualPlan(TODAY, 9));
    expect(tries).toMatchObject({ days: 40, items: 2 });
    expect(tries.moved + tries.appear).toBeGreaterThan(0);
    expect(leads()).toEqual(was);
    const plan = (days: unknown, who = "ines") => planWith(h.desk(who), { supplier, days });
    expect(refusal(plan(40, "lena"))).toEqual(["Your role does not allow this."]);
    expect(refusal(plan(-1))[0]).toMatch(/No days below nought/);
    expect(must(plan(40)).items).toBe(2);
    expect(leads()).toEqual([40, 12, 40]);
    expect(refusal(plan(40))[0]).toMatch(/planned with these days already/);
  });
});

it("takes any address: a year to today against as many days before it", () => {
  const of = (search: string) => recordAsked(new URLSearchParams(search), toDay("2026-11-24"));
  expect(of("from=x")).toEqual({
    period: { from: "2025-11-25", until: "2026-11-24" },
    before: { from: "2024-11-25", until: "2025-11-24" },
  });
  expect(of("from=2026-11-01&to=2026-11-10").before).toEqual({ from: "2026-10-22", until: "2026-10-31" });
});
