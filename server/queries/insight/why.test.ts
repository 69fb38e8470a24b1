import { afterAll, beforeAll, expect, it } from "vitest";
import { toDay } from "../../../core/calendar/day";
import { NO_STEPS, sumOfSteps, WHY_BY } from "../../../core/insight/why";
import { on } from "../../acts/consigned/testing";
import { receiveGoods } from "../../acts/receiving/receive-goods";
import { orderAt, placedOrder } from "../../acts/receiving/testing";
import { sql } from "../../db/open";
import { must, type TestHouse, testHouse } from "../../testing";
import { readMovedMost } from "./moved";
import { readWhy, whyOf } from "./why";

let h: TestHouse;
beforeAll(async () => {
  h = testHouse();
  sql(h.db, "INSERT INTO rate (currency, day, rate) VALUES ('SEK', '2026-01-01', 90000)").run();
  sql(h.db, "UPDATE supplier SET currency = 'SEK' WHERE code = 'BAW'").run();
});
afterAll(() => h.close());

/** An order that comes on a day. */
async function bought(supplier: string, line: Record<string, unknown>, day: string) {
  const { order, lines } = await placedOrder(h, supplier, [line]);
  must(
    receiveGoods(on(h.desk("tobias"), day), {
      ...orderAt(h, order),
      deliveryNote: "",
      lines: [{ line: lines[0], counted: String(line.quantity) }],
    }),
  );
}

it("says why what came cost more, by anything, and adds up", async () => {
  await bought("TTL", { code: "OIL", quantity: "2", price: "620" }, "2026-03-10");
  await bought("TTL", { code: "OIL", quantity: "3", price: "650" }, "2026-09-10");
  await bought("BAW", { code: "ANO", quantity: "10", price: "100" }, "2026-03-11");
  sql(h.db, "INSERT INTO rate (currency, day, rate) VALUES ('SEK', '2026-06-01', 100000)").run();
  await bought("BAW", { code: "ANO", quantity: "12", price: "110" }, "2026-09-11");
  await bought("TTL", { kind: "not stocked", words: "Grease", quantity: "3", price: "212.40" }, "2026-09-12");
  await bought("TTL", { code: "ROP", quantity: "1", price: "1298" }, "2026-03-12");
  const days = {
    from: toDay("2026-07-01"),
    until: toDay("2026-12-31"),
    before: { from: toDay("2026-01-01"), until: toDay("2026-06-30") },
  };
  for (const by of WHY_BY) {
    const why = readWhy(h.db, { by, ...days });
    expect([why.before, why.after]).toEqual([2 * 620_00 + 90_00 + 1_298_00, 3 * 650_00 + 132_00 + 637_20]);
    expect(why.before + sumOfSteps(why.steps)).toBe(why.after);
    for (const r of why.rows) expect(r.before + sumOfSteps(r.steps)).toBe(r.after);
    expect(why.steps).toEqual({
      ...NO_STEPS,
      price: 3 * 30_00 + 10_80,
      currency: 13_20,
      quantity: 620_00 + 18_00,
      new: 637_20,
      gone: -1_298_00,
    });
  }
});

it("names what moved most since last week, and why", () => {
  expect(readMovedMost(h.db, toDay("2026-09-14"))).toEqual([
    {
      key: "",
      label: "no category",
      before: 0,
      after: 3 * 650_00 + 132_00 + 637_20,
      cause: "new",
      from: "2026-09-08",
      until: "2026-09-14",
    },
  ]);
  expect(readMovedMost(h.db, toDay("2026-01-14"))).toEqual([]);
});

it("takes any address: as usual the last half year against as many days before", () => {
  const of = (search: string) => whyOf(new URLSearchParams(search), toDay("2026-11-24"));
  expect(of("by=x&from=2027-01-01")).toEqual({
    by: "category",
    from: "2026-05-27",
    until: "2026-11-24",
    before: { from: "2025-11-26", until: "2026-05-26" },
  });
  expect(of("by=item&from=2026-02-01&to=2026-02-10&than=2025-02-01")).toEqual({
    by: "item",
    from: "2026-02-01",
    until: "2026-02-10",
    before: { from: "2025-02-01", until: "2025-02-10" },
  });
});
