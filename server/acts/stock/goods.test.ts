import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { binFor, readBins } from "../../queries/stock/bins";
import { must, type TestHouse, TODAY, testHouse } from "../../testing";
import { bring, runningAgreement } from "../consigned/testing";
import { countIn, placedOrder, stockAt } from "../receiving/testing";
import { keepReordering } from "../records/keep-item";
import { addBins, keepBin, keepStowing, removeBin } from "./bins";
import { issueGoods, takeBackFromJob } from "./issue-goods";
import { moveGoods, stowGoods } from "./move-goods";
import { lying, says } from "./testing";
import { writeOff } from "./write-off";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const quay = () => h.id("store", "TQ");
const bins = (from = "A1", to = "A12") => must(addBins(h.desk("tobias"), { store: quay(), from, to }));
const row = (item: string, quantity: string, from: string, to: string) => ({
  item: h.id("item", item),
  quantity,
  from,
  to,
});
const ownBinIs = (item: string, bin: string) =>
  sql(h.db, "UPDATE item_store SET bin = ? WHERE item = ? AND store = ?").run(bin, h.id("item", item), quay());
const job = () => sql<{ id: number }>(h.db, "SELECT id FROM job WHERE code = '2291'").get()!.id;
const issued = () => sql<{ n: number }>(h.db, "SELECT sum(issued) / 10000.0 AS n FROM job_demand").get()!.n;

describe("bins", () => {
  it("are made one by one or as a range, and not twice", () => {
    expect(bins()).toEqual({ made: 12 });
    expect(bins("A11", "A14")).toEqual({ made: 2 });
    expect(says(addBins(h.desk("tobias"), { store: quay(), from: "a1", to: "" }))).toBe("Bin a1 is there already.");
    expect(says(addBins(h.desk("tobias"), { store: quay(), from: "A9", to: "A1" }))).toMatch(/^A range goes/);
    expect(says(addBins(h.desk("ines"), { store: quay(), from: "Z1", to: "" }))).toBe("Your role does not allow this.");
  });

  it("are there once an item names them, however often it does", () => {
    const keep = (bin: string) =>
      keepReordering(h.desk("osk"), {
        item: h.id("item", "ANO"),
        store: quay(),
        policy: "top up",
        reorderPoint: "18",
        lot: "",
        level: "60",
        coverDays: "",
        maximum: "",
        reviewDays: "7",
        bin,
      });
    must(keep("C7"));
    must(keep("c7"));
    must(keep("C7"));
    expect(readBins(h.db, quay()).map((b) => b.code)).toEqual(["C7"]);
  });

  it("go only where nothing lies and which nothing calls its own", () => {
    bins();
    ownBinIs("OIL", "a3");
    must(moveGoods(h.desk("tobias"), { store: quay(), rows: [row("ANO", "2", "", "A1")] }));
    const remove = (bin: string) => says(removeBin(h.desk("tobias"), { store: quay(), bin }));
    expect(remove("A1")).toBe("Goods lie in bin A1. Move them first.");
    expect(remove("A3")).toBe("Bin A3 is the own bin of Hydraulic oil. Give that another one first.");
    expect(remove("A4")).toBeNull();
    expect(readBins(h.db, quay()).find((b) => b.code === "A1")).toMatchObject({ items: 1, own: 0 });
    expect(readBins(h.db, quay()).find((b) => b.code === "A3")).toMatchObject({ items: 0, own: 1 });
  });
});

describe("stowing", () => {
  it("what is counted in waits on the dock, and its value stays when it is stowed", async () => {
    bins();
    ownBinIs("ANO", "a7");
    const { order, lines } = await placedOrder(h, "BAW", [{ code: "ANO", quantity: "20", price: "30" }]);
    must(countIn(h, order, [{ line: lines[0], counted: "20" }]));
    const before = stockAt(h, "ANO");
    expect(lying(h, "ANO")).toEqual({ "": 80 });
    expect(binFor(h.db, { item: h.id("item", "ANO"), store: quay(), lot: null })).toEqual({
      bin: "A7",
      why: "its own bin",
    });
    must(stowGoods(h.desk("tobias"), { store: quay(), rows: [row("ANO", "20", "", "a7")] }));
    expect(lying(h, "ANO")).toEqual({ "": 60, A7: 20 });
    expect(stockAt(h, "ANO")).toEqual(before);
  });

  it("or lies in its bin at once, where the store does so, or in the one that was named", async () => {
    bins();
    ownBinIs("ANO", "A7");
    must(keepStowing(h.desk("tobias"), { store: quay(), stows: false }));
    const { order, lines } = await placedOrder(h, "BAW", [{ code: "ANO", quantity: "20", price: "30" }]);
    must(
      countIn(h, order, [
        { line: lines[0], counted: "12" },
        { line: lines[0], counted: "8", bin: "a2" },
      ]),
    );
    expect(lying(h, "ANO")).toEqual({ "": 60, A7: 12, A2: 8 });
  });

  it("names what is wrong at its row, and moves nothing", () => {
    bins();
    must(keepBin(h.desk("tobias"), { store: quay(), bin: "A5", closed: "floor broken" }));
    must(bring(h, runningAgreement(h), "5", TODAY, { bin: "A6" }));
    const stow = (quantity: string, from: string, to: string) =>
      stowGoods(h.desk("tobias"), { store: quay(), rows: [row("ANO", "1", "", "A1"), row("OIL", quantity, from, to)] });
    for (const [quantity, from, to, field, sentence] of [
      ["1", "", "Q9", "to", "Tarn Quay has no bin Q9."],
      ["1", "", "A5", "to", "Nothing more is put into bin A5: floor broken"],
      ["1", "", "A6", "to", "Goods of Brannock lie in bin A6: ours go into another."],
      ["1", "A2", "a2", "to", "It lies in A2 already."],
      ["340.5", "", "A1", "quantity", "Only 340 L of Hydraulic oil lie on the dock."],
    ] as const) {
      const answer = stow(quantity, from, to);
      expect(answer).toMatchObject({ ok: false, problems: [{ field: `rows.1.${field}`, says: sentence }] });
    }
    // Two rows that take from one place are added up.
    expect(
      says(
        stowGoods(h.desk("tobias"), {
          store: quay(),
          rows: [row("OIL", "200", "", "A1"), row("OIL", "200", "", "A2")],
        }),
      ),
    ).toBe("Only 340 L of Hydraulic oil lie on the dock.");
    expect(lying(h, "ANO")).toEqual({ "": 60 });
    sql(h.db, "UPDATE person SET store = ? WHERE login = 'tobias'").run(h.id("store", "HS"));
    expect(says(stow("1", "", "A1"))).toBe("This is at Tarn Quay, not in your store.");
  });
});

it("whoever looks after a job is told what came that it wants, and where it lies", async () => {
  bins();
  ownBinIs("OIL", "A7");
  sql(h.db, "UPDATE job SET told = ?").run(h.id("person", "joss"));
  const { order, lines } = await placedOrder(h, "TTL", [{ code: "OIL", quantity: "2", price: "600" }]);
  must(countIn(h, order, [{ line: lines[0], counted: "1" }]));
  const { number } = sql<{ number: string }>(h.db, "SELECT number FROM purchase_order WHERE id = ?").get(order)!;
  const told = () =>
    sql<{ text: string; detail: string; href: string }>(
      h.db,
      "SELECT text, detail, href FROM notice WHERE person = ? ORDER BY id",
    ).all(h.id("person", "joss"));
  expect(told()).toEqual([
    {
      text: "Came in, and job 2291 wants it: 200 L of Hydraulic oil",
      detail: `order ${number}, on the dock of Tarn Quay, goes into A7`,
      href: `/jobs/${job()}`,
    },
  ]);
  must(countIn(h, order, [{ line: lines[0], counted: "1", bin: "a9" }]));
  expect(told()[1]!.detail).toBe(`order ${number}, in A9 of Tarn Quay`);
});

describe("issuing", () => {
  it("takes goods out at what they are worth, and the job wants that much less; given back, it wants them again", () => {
    const rows = [{ item: h.id("item", "OIL"), quantity: "100" }];
    must(issueGoods(h.desk("tobias"), { store: quay(), job: job(), rows }));
    expect(issued()).toBe(100);
    expect(stockAt(h, "OIL").quantity).toBe(240);
    const worth = stockAt(h, "OIL").value;
    const back = (quantity: string) =>
      takeBackFromJob(h.desk("tobias"), {
        store: quay(),
        job: job(),
        item: h.id("item", "OIL"),
        quantity,
        reason: "not used",
      });
    expect(says(back("101"))).toBe("Only 100 L were issued to it.");
    must(back("40"));
    expect(issued()).toBe(60);
    expect(stockAt(h, "OIL")).toMatchObject({ quantity: 280 });
    expect(stockAt(h, "OIL").value).toBe(worth + Math.round((worth * 40) / 240));
    const used = sql<{ n: number }>(h.db, "SELECT sum(minor) AS n FROM posting WHERE role = 'used'").get()!.n;
    expect(stockAt(h, "OIL").value + used).toBe(34_000 * 3.12);
  });

  it("leaves what other jobs hold, and says which", async () => {
    const demand = sql<{ id: number }>(h.db, "SELECT id FROM job_demand").get()!.id;
    const { order, lines } = await placedOrder(h, "TTL", [{ code: "OIL", quantity: "1", price: "600" }]);
    sql(h.db, "UPDATE job_demand SET tied = 2000000 WHERE id = ?").run(demand);
    sql(
      h.db,
      "INSERT INTO need_tie (order_line, source, job_demand, quantity, wanted) VALUES (?, 'job', ?, 2000000, 2000000)",
    ).run(lines[0], demand);
    must(countIn(h, order, [{ line: lines[0], counted: "1" }]));
    const issue = (quantity: string, more: object) =>
      issueGoods(h.desk("tobias"), { store: quay(), rows: [{ item: h.id("item", "OIL"), quantity }], ...more });
    expect(says(issue("341", { reason: "to the workshop" }))).toBe("job 2291 holds 200 L: 340 can be issued.");
    expect(says(issue("1", {}))).toBe("Say for which job, or who gets it and what for.");
    expect(says(issue("341", { job: job() }))).toBeNull();
    expect(
      says(
        writeOff(h.desk("ines"), { store: quay(), item: h.id("item", "OIL"), quantity: "199", bin: "", why: "broken" }),
      ),
    ).toBeNull();
    expect(issued()).toBe(260);
  });

  it("takes no lot that is held or expired, and none that is not there", () => {
    bins();
    must(moveGoods(h.desk("tobias"), { store: quay(), rows: [row("ANO", "5", "", "A1")] }));
    const issue = (more: object) =>
      says(
        issueGoods(h.desk("tobias"), {
          store: quay(),
          reason: "to the workshop",
          named: true,
          rows: [{ item: h.id("item", "ANO"), quantity: "6", ...more }],
        }),
      );
    expect(issue({ bin: "A1" })).toBe("Only 5 each of Hull anode lie in A1.");
    expect(issue({ bin: "A1", quantity: "5" })).toBeNull();
    expect(issue({ quantity: "56" })).toBe("Only 55 each of Hull anode lie on the dock.");
    const lot = Number(
      sql(h.db, "INSERT INTO lot (item, code, expires) VALUES (?, 'L1', '2026-11-23')").run(h.id("item", "ANO"))
        .lastInsertRowid,
    );
    sql(
      h.db,
      "INSERT INTO movement (item, store, lot, day, kind, quantity, at) VALUES (?, ?, ?, '2026-11-24', 'count', 100000, '')",
    ).run(h.id("item", "ANO"), quay(), lot);
    expect(issue({ lot })).toBe("Lot L1 expired: write it off.");
    expect(
      says(
        issueGoods(h.desk("tobias"), {
          store: quay(),
          reason: "all of it",
          rows: [{ item: h.id("item", "ANO"), quantity: "56" }],
        }),
      ),
    ).toBe("There is not that much Hull anode that may be used.");
    must(
      writeOff(h.desk("ines"), {
        store: quay(),
        item: h.id("item", "ANO"),
        lot,
        quantity: "10",
        bin: "",
        why: "spoilt or expired",
      }),
    );
  });
});

describe("writing off", () => {
  it("is a buyer's, and what it was worth is a stock difference", () => {
    const off = (who: string, quantity: string) =>
      writeOff(h.desk(who), {
        store: quay(),
        item: h.id("item", "ANO"),
        quantity,
        bin: "",
        why: "broken",
        note: "dropped",
      });
    expect(says(off("tobias", "1"))).toBe("Your role does not allow this.");
    expect(says(off("ines", "61"))).toBe("Only 60 each lie on the dock.");
    const { paper } = must(off("ines", "60"));
    expect(stockAt(h, "ANO")).toEqual({ quantity: 0, value: 0 });
    const row = sql<{ reason: string }>(h.db, "SELECT reason FROM stock_paper WHERE id = ?").get(paper)!;
    expect(row.reason).toBe("broken: dropped");
    expect(
      sql<{ n: number }>(h.db, "SELECT sum(minor) AS n FROM posting WHERE role = 'stock difference'").get()!.n,
    ).toBe(6_000 * 31.2);
  });
});
