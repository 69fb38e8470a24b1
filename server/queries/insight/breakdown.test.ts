import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { toDay } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import {
  type BreakdownAsked,
  type COUNTS,
  DIMENSIONS,
  type Filters,
  MEASURES,
  type SpendMeasure,
} from "../../../core/insight/breakdown";
import { exchanged, lineNet, money, unitPrice } from "../../../core/numbers/money";
import { fillLineValues } from "../../acts/insight/line-values";
import { countIn, placedOrder } from "../../acts/receiving/testing";
import { undoReceipt } from "../../acts/receiving/undo-receipt";
import { enterInvoice } from "../../acts/settling/enter-invoice";
import { sql } from "../../db/open";
import { must, type TestHouse, testHouse } from "../../testing";
import { brokenTruths } from "../always-true";
import { readOpenParts } from "./ahead";
import { breakdownOf, cellsOf, readBreakdown, readBreakdownPapers } from "./breakdown";

let h: TestHouse;
const ASKED: BreakdownAsked = {
  measure: "ordered",
  count: "value",
  rows: "supplier",
  columns: null,
  from: toDay("2026-01-01"),
  until: toDay("2026-12-31"),
  filters: {},
};

/** Two suppliers, one in Swedish crowns; charges, discounts, a part undone, an invoice with a line on no order. */
beforeAll(async () => {
  h = testHouse();
  sql(h.db, "INSERT INTO rate (currency, day, rate) VALUES ('SEK', '2026-01-01', 87100)").run();
  sql(h.db, "UPDATE supplier SET currency = 'SEK' WHERE code = 'BAW'").run();
  sql(h.db, "UPDATE item SET category = 'Oils' WHERE code = 'OIL'").run();
  sql(h.db, "INSERT INTO account (code, name) VALUES ('6300', 'Pilotage')").run();
  sql(h.db, "UPDATE item SET reference_cost = 3055000 WHERE code = 'OIL'").run();
  const store = sql<{ id: number }>(h.db, "SELECT id FROM store ORDER BY id").get()!.id;
  const ask = sql(
    h.db,
    "INSERT INTO requisition (number, asker, store, state, started, submitted) VALUES (?, ?, ?, ?, '2026-11-03', '2026-11-03T08:00:00.000Z')",
  );
  const askLine = sql(
    h.db,
    "INSERT INTO requisition_line (requisition, position, item, quantity, estimate, declined) VALUES (?, ?, ?, ?, ?, ?)",
  );
  const open = ask.run("R26-1", h.id("person", "joss"), store, "Open").lastInsertRowid;
  askLine.run(open, 1, h.id("item", "ROP"), 20_000, 45_000, null);
  askLine.run(open, 2, h.id("item", "OIL"), 30_000, null, null);
  askLine.run(open, 3, h.id("item", "OIL"), 30_000, 700, "2026-11-04");
  const gone = ask.run("R26-2", h.id("person", "joss"), store, "Withdrawn").lastInsertRowid;
  askLine.run(gone, 1, h.id("item", "ROP"), 20_000, 45_000, null);
  const first = await placedOrder(h, "TTL", [
    { code: "OIL", quantity: "5", price: "624" },
    { kind: "not stocked", words: "Stern tube grease", quantity: "3", price: "212.40" },
    { kind: "charge", words: "Freight", quantity: "1", price: "95" },
  ]);
  const second = await placedOrder(h, "BAW", [{ code: "ANO", quantity: "7", price: "31.213" }]);
  const third = await placedOrder(h, "TTL", [{ code: "ROP", quantity: "2", price: "1298" }]);
  must(countIn(h, first.order, [{ line: first.lines[0], counted: "4" }]));
  must(countIn(h, second.order, [{ line: second.lines[0], counted: "7" }]));
  must(countIn(h, third.order, [{ line: third.lines[0], counted: "1" }]));
  const receipt = sql<{ id: number }>(h.db, "SELECT id FROM receipt ORDER BY id LIMIT 1").get()!.id;
  must(undoReceipt(h.desk("tobias"), { receipt, reason: "another boat’s" }));
  must(countIn(h, first.order, [{ line: first.lines[0], counted: "2" }]));
  must(
    enterInvoice(h.desk("lena"), {
      supplier: h.id("supplier", "BAW"),
      number: "B-1",
      day: "2026-11-24",
      lines: [{ line: second.lines[0], quantity: "7" }],
    }),
  );
});
const TODAY = toDay("2026-11-24");
afterAll(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

/** The same added up slowly, paper by paper, in core's own money. */
function slowly(measure: SpendMeasure): number {
  const home = "EUR";
  if (measure === "ordered")
    return sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order WHERE placed IS NOT NULL")
      .all()
      .reduce((a, o) => {
        const { homeNet } = sql<{ homeNet: number }>(
          h.db,
          "SELECT home_net AS homeNet FROM purchase_order WHERE id = ?",
        ).get(o.id)!;
        return a + homeNet;
      }, 0);
  if (measure === "received") {
    const posted = sql<{ minor: number }>(
      h.db,
      "SELECT -sum(p.minor) AS minor FROM posting p JOIN posting_entry e ON e.id = p.entry WHERE p.role = 'received not invoiced' AND e.kind IN ('receipt', 'undo')",
    ).get()!;
    return posted.minor;
  }
  // Two drums at the asker's estimate, and 3 L of oil at its reference cost of 3.055: 9.165.
  if (measure === "asked") return 45_000 + 917;
  if (measure === "to come") return readOpenParts(h.db, TODAY).reduce((a, p) => a + p.value, 0);
  return sql<{ quantity: number; price: number; currency: string; rate: number }>(
    h.db,
    "SELECT b.quantity, b.price, v.currency, v.rate FROM invoice_line b JOIN invoice v ON v.id = b.invoice WHERE v.state = 'Matched'",
  )
    .all()
    .reduce((a, b) => {
      const net = lineNet(b.quantity, unitPrice(b.price), 0, 0, b.currency).minor;
      return a + exchanged(money(net, b.currency), b.rate, home).minor;
    }, 0);
}

describe("a breakdown", () => {
  it.each(MEASURES)(
    "of what was %s is the sum of its papers, whatever it is broken down by, and under every filter",
    (measure) => {
      const all = slowly(measure);
      expect(all).toBeGreaterThan(0);
      const of = (more: Partial<BreakdownAsked>) => readBreakdown(h.db, { ...ASKED, measure, ...more });
      for (const rows of DIMENSIONS) {
        const by = of({ rows });
        expect([rows, by.total]).toEqual([rows, all]);
        for (const columns of ["month", "supplier", "category"] as const)
          if (columns !== rows) expect(of({ rows, columns }).total).toBe(all);
        for (const r of by.rows) {
          const filters: Filters = { [rows]: r.key };
          expect(of({ rows: "item", filters }).total).toBe(r.total);
          const behind = readBreakdownPapers(h.db, { ...ASKED, measure, filters });
          expect([behind.value, behind.papers.reduce((a, p) => a + p.value, 0)]).toEqual([r.total, r.total]);
          expect(of({ rows: "item", filters, count: "papers" }).rows.length).toBeGreaterThan(0);
        }
      }
    },
  );

  it("knows a day's papers by their days, and has nothing where there are none", () => {
    const of = (from: string, until: string) =>
      readBreakdown(h.db, { ...ASKED, measure: "received", from: toDay(from), until: toDay(until) }).total;
    expect([of("2026-11-24", "2026-11-24"), of("2026-01-01", "2026-11-23"), of("2026-11-25", "2026-12-31")]).toEqual([
      slowly("received"),
      0,
      0,
    ]);
  });

  it("names what has none, and what its values are called", () => {
    const rows = readBreakdown(h.db, { ...ASKED, rows: "category" }).rows.map((r) => [r.key, r.label]);
    expect(rows).toEqual(
      expect.arrayContaining([
        ["Oils", "Oils"],
        ["", "no category"],
      ]),
    );
    expect(readBreakdown(h.db, { ...ASKED, rows: "supplier" }).rows.map((r) => r.label)).toEqual(
      expect.arrayContaining(["Tern & Tallow", "Brannock"]),
    );
    const cells = cellsOf(readBreakdown(h.db, { ...ASKED, rows: "supplier", columns: "month" }));
    expect(cells.every((c) => c.columnKey === "2026-11")).toBe(true);
  });

  it("counts lines and papers", () => {
    const by = (count: (typeof COUNTS)[number]) => readBreakdown(h.db, { ...ASKED, count }).total;
    expect([by("lines"), by("papers")]).toEqual([5, 3]);
  });

  it("of a file of an earlier house is worked out once, to the same", () => {
    const before = readBreakdown(h.db, ASKED);
    sql(h.db, "UPDATE order_line SET home_net = NULL").run();
    sql(h.db, "UPDATE invoice_line SET home_net = NULL").run();
    expect(fillLineValues(h.db)).toBeGreaterThan(3);
    expect(fillLineValues(h.db)).toBe(0);
    expect(readBreakdown(h.db, ASKED)).toEqual(before);
  });

  it("takes any address, and what is not understood as usual", () => {
    const today = toDay("2026-11-24");
    const of = (search: string) => breakdownOf(new URLSearchParams(search), today);
    expect(of("")).toEqual({
      measure: "received",
      count: "value",
      rows: "supplier",
      columns: null,
      from: "2025-11-25",
      until: "2026-11-24",
      filters: {},
    });
    expect(of("of=ordered&show=lines&rows=job&columns=month&from=2026-02-01&to=2026-03-31&is-job=&is-store=2")).toEqual(
      {
        measure: "ordered",
        count: "lines",
        rows: "job",
        columns: "month",
        from: "2026-02-01",
        until: "2026-03-31",
        filters: { job: "", store: "2" },
      },
    );
    expect(of("of=x&rows=y&columns=supplier&from=2027-01-01&to=x")).toMatchObject({
      measure: "received",
      rows: "supplier",
      columns: null,
      from: "2026-11-01",
      until: "2026-11-24",
    });
  });
});
