import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { must, type TestHouse, testHouse } from "../../testing";
import { addBins } from "../stock/bins";
import { bookCount, handInCount, judgeCount, startCount } from "../stock/count-stock";
import { issueAtJob, issueGoods, takeBackFromJob } from "../stock/issue-goods";
import { moveGoods } from "../stock/move-goods";
import { says } from "../stock/testing";
import { theirsLost } from "./lost-and-found";
import { tickConsigned } from "./ripen";
import { buyTheRest, sendTheirsBack } from "./send-back";
import { takeBackUse } from "./take-back";
import { bring, left, on, runningAgreement } from "./testing";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const job = () => sql<{ id: number }>(h.db, "SELECT id FROM job WHERE code = '2291'").get()!.id;
const ano = () => h.id("item", "ANO");
const ours = () =>
  sql<{ quantity: number; value: number }>(
    h.db,
    "SELECT on_hand / 10000 AS quantity, value FROM item_store WHERE item = ? AND store = ?",
  ).get(ano(), h.id("store", "TQ"))!;
const use = (quantity: string, day = "2026-10-10", login = "tobias") =>
  issueGoods(on(h.desk(login), day), { store: h.id("store", "TQ"), job: job(), rows: [{ item: ano(), quantity }] });
const uses = () =>
  sql<{ what: string; quantity: number; net: number; order: string; state: string }>(
    h.db,
    `SELECT u.what, u.quantity / 10000 AS quantity, u.net, o.number AS "order", o.state FROM consigned_use u JOIN order_line l ON l.id = u.order_line
     JOIN purchase_order o ON o.id = l.purchase_order ORDER BY u.id`,
  ).all();
const role = (name: string) =>
  sql<{ minor: number }>(h.db, "SELECT coalesce(sum(minor), 0) AS minor FROM posting WHERE role = ?").get(name)!.minor;

describe("goods of a supplier on our shelf", () => {
  it("are registered without a value, used from the oldest, and become ours on their day at that day’s price", () => {
    const agreement = runningAgreement(h, {
      items: [
        {
          item: ano(),
          least: "10",
          most: "3000",
          pack: "5",
          refillDays: "7",
          prices: [
            { day: "", price: "0.18" },
            { day: "2026-10-20", price: "0.20" },
          ],
        },
      ],
    });
    const before = ours();
    expect(bring(h, agreement, "1000", "2026-08-01").ok).toBe(true);
    expect(bring(h, agreement, "1400", "2026-09-01").ok).toBe(true);
    expect(ours()).toEqual(before);
    expect(use("350").ok).toBe(true);
    expect(left(h)).toEqual([650, 1400]);
    expect(uses()).toEqual([{ what: "used", quantity: 350, net: 6_300, order: "K26-1001", state: "All in" }]);
    // In and out at the agreed price: what is ours is as it was.
    expect(ours()).toEqual(before);
    expect(role("received not invoiced")).toBe(-6_300);
    expect(role("used")).toBe(6_300);
    // On 30 October what is left of August becomes ours; the clock stood still until November.
    expect(tickConsigned(h.db, "2026-10-29T23:00:00.000Z", on(h.desk("ines"), "2026-10-29").day)).toBe(0);
    expect(tickConsigned(h.db, "2026-11-24T09:00:00.000Z", h.desk("ines").day)).toBe(1);
    expect(tickConsigned(h.db, "2026-11-24T09:01:00.000Z", h.desk("ines").day)).toBe(0);
    expect(left(h)).toEqual([0, 1400]);
    expect(uses()[1]).toEqual({ what: "became ours", quantity: 650, net: 13_000, order: "K26-1002", state: "All in" });
    expect(ours()).toEqual({ quantity: before.quantity + 650, value: before.value + 13_000 });
    expect(sql<{ day: string }>(h.db, "SELECT day FROM consigned_use WHERE what = 'became ours'").get()?.day).toBe(
      "2026-10-30",
    );
  });

  it("are taken back by a part and whole, with order, receipt, issue and what the job wants", () => {
    const agreement = runningAgreement(h);
    bring(h, agreement, "100", "2026-09-01");
    bring(h, agreement, "50", "2026-09-15");
    const wanted = () =>
      sql<{ n: number }>(h.db, "SELECT sum(issued) AS n FROM job_demand WHERE job = ?").get(job())!.n;
    sql(h.db, "INSERT INTO job_demand (job, item, store, due, quantity) VALUES (?, ?, ?, '2026-12-01', 1500000)").run(
      job(),
      ano(),
      h.id("store", "TQ"),
    );
    const before = { ours: ours(), rni: role("received not invoiced"), used: role("used"), wanted: wanted() };
    expect(use("130").ok).toBe(true);
    expect(left(h)).toEqual([0, 20]);
    const id = sql<{ id: number }>(h.db, "SELECT id FROM consigned_use").get()!.id;
    const back = (quantity: string) =>
      takeBackUse(on(h.desk("tobias"), "2026-10-11"), { use: id, quantity, reason: "not used" });
    expect(back("40").ok).toBe(true);
    expect(left(h)).toEqual([10, 50]);
    expect(says(back("91"))).toBe("Only 90 each of it are not taken back yet.");
    expect(back("90").ok).toBe(true);
    expect(left(h)).toEqual([100, 50]);
    expect({ ours: ours(), rni: role("received not invoiced"), used: role("used"), wanted: wanted() }).toEqual(before);
    expect(uses().map((u) => u.state)).toEqual(["Closed short", "Closed short", "Closed short"]);
    expect(says(back("1"))).toBe("All of it is taken back already.");
  });

  it("go before ours, or after, as the agreement says; and beyond both nothing is used", () => {
    const agreement = runningAgreement(h, { first: "ours" });
    bring(h, agreement, "100", "2026-09-01");
    expect(use("80").ok).toBe(true); // 60 of ours are there
    expect(left(h)).toEqual([80]);
    expect(ours().quantity).toBe(0);
    expect(says(use("81"))).toBe("Only 0 of ours and 80 of Brannock may be used of Hull anode.");
    expect(left(h)).toEqual([80]);
  });

  it("are used by an engineer at a job, and by nobody who may not", () => {
    const agreement = runningAgreement(h);
    bring(h, agreement, "100", "2026-09-01");
    const store = h.id("store", "TQ");
    const rows = [{ item: ano(), quantity: "5" }];
    expect(issueAtJob(on(h.desk("joss"), "2026-10-10"), { store, job: job(), rows }).ok).toBe(true);
    expect(says(issueAtJob(on(h.desk("joss"), "2026-10-10"), { store, reason: "for my own boat", rows }))).toBe(
      "Say for which job.",
    );
    expect(says(issueGoods(on(h.desk("joss"), "2026-10-10"), { store, job: job(), rows }))).toBe(
      "Your role does not allow this.",
    );
    expect(says(issueAtJob(on(h.desk("maud"), "2026-10-10"), { store, job: job(), rows }))).toBe(
      "Your role does not allow this.",
    );
  });

  it("are sent back, and bought at the end; after the end they are not used", () => {
    const agreement = runningAgreement(h, { ends: "2026-10-31", oursAfter: "" });
    bring(h, agreement, "100", "2026-09-01");
    const item = sql<{ id: number }>(h.db, "SELECT id FROM agreement_item").get()!.id;
    expect(
      sendTheirsBack(on(h.desk("tobias"), "2026-10-01"), { agreementItem: item, quantity: "30", reason: "too many" })
        .ok,
    ).toBe(true);
    expect(
      says(
        sendTheirsBack(on(h.desk("tobias"), "2026-10-01"), { agreementItem: item, quantity: "71", reason: "too many" }),
      ),
    ).toBe("Only 70 each of Hull anode of Brannock lie here.");
    expect(says(use("65", "2026-11-01"))).toMatch(
      /Only 60 of ours may be used .* ended on Sat 31 Oct: what is left is bought or sent back\./,
    );
    expect(says(bring(h, agreement, "10", "2026-11-01"))).toMatch(/ended on Sat 31 Oct/);
    expect(buyTheRest(on(h.desk("ines"), "2026-11-02"), { agreement }).ok).toBe(true);
    expect(left(h)).toEqual([0]);
    expect(ours().quantity).toBe(130);
    expect(says(buyTheRest(on(h.desk("ines"), "2026-11-02"), { agreement }))).toBe("Nothing of theirs is left.");
  });
});

describe("what cannot be", () => {
  it("is refused in a sentence, and nothing is written", () => {
    const agreement = runningAgreement(h, {
      items: [
        { item: ano(), least: "10", most: "100", pack: "5", refillDays: "7", prices: [{ day: "", price: "30" }] },
      ],
    });
    const counts = () =>
      sql<{ n: number }>(
        h.db,
        "SELECT (SELECT count(*) FROM movement) + (SELECT count(*) FROM consigned_layer) + (SELECT count(*) FROM audit) AS n",
      ).get()!.n;
    bring(h, agreement, "100", "2026-09-01");
    const before = counts();
    expect(says(bring(h, agreement, "5", "2026-09-01"))).toBe(
      "Delivery note LS-2026-09-01 was registered already: G26-1001 on Tue 1 Sep.",
    );
    expect(says(bring(h, agreement, "5", "2026-09-02"))).toMatch(/105 each would lie here, and 100 is the most/);
    expect(says(bring(h, agreement, "5", "2026-08-31"))).toMatch(/goods of Brannock moved on Tue 1 Sep already/);
    expect(says(bring(h, agreement, "2.5", "2026-09-02"))).toBe("Hull anode comes in whole each.");
    expect(says(bring(h, agreement, "5", "2026-09-02", { bin: "ZZ9" }))).toBe("Tarn Quay has no bin ZZ9.");
    expect(says(use("161"))).toBe("Only 60 of ours and 100 of Brannock may be used of Hull anode.");
    expect(counts()).toBe(before);
  });
});

describe("what is lost and found", () => {
  const lies = () =>
    sql<{ bin: string }>(h.db, "SELECT bin FROM stock_balance WHERE owner <> 0 AND quantity > 0").get()!.bin;
  const lose = (quantity: string) =>
    theirsLost(h.desk("ines"), {
      store: h.id("store", "TQ"),
      item: ano(),
      owner: h.id("supplier", "BAW"),
      bin: lies(),
      quantity,
      why: "lost",
    });

  it("is paid for by us where we bear it, and can be found again", () => {
    bring(h, runningAgreement(h), "100", "2026-09-01");
    const before = { ours: ours(), difference: role("stock difference") };
    expect(lose("6").ok).toBe(true);
    expect(left(h)).toEqual([94]);
    expect(uses()).toEqual([{ what: "lost", quantity: 6, net: 18_000, order: "K26-1001", state: "All in" }]);
    expect({ ours: ours(), difference: role("stock difference") }).toEqual({
      ...before,
      difference: before.difference + 18_000,
    });
    expect(says(lose("95"))).toBe("Only 94 each of Hull anode of Brannock lie on the dock.");
    const use = sql<{ id: number }>(h.db, "SELECT id FROM consigned_use").get()!.id;
    expect(takeBackUse(h.desk("tobias"), { use, quantity: "6", reason: "it lay behind the rack" }).ok).toBe(true);
    expect(left(h)).toEqual([100]);
    expect({ ours: ours(), difference: role("stock difference") }).toEqual(before);
  });

  it("is the supplier’s where they bear it", () => {
    bring(h, runningAgreement(h, { bears: "them" }), "100", "2026-09-01");
    expect(lose("6").ok).toBe(true);
    expect(left(h)).toEqual([94]);
    expect(uses()).toEqual([]);
    expect(role("received not invoiced")).toBe(0);
  });

  it("is booked with a count of the stock: theirs beside ours", () => {
    const agreement = runningAgreement(h);
    bring(h, agreement, "100", "2026-09-01");
    const started = must(startCount(h.desk("tobias"), { store: h.id("store", "TQ"), item: ano() }));
    const lines = sql<{ id: number; owner: number | null; expected: number }>(
      h.db,
      "SELECT id, owner, expected FROM stock_count_line ORDER BY owner",
    ).all();
    expect(lines.map((l) => [l.owner, l.expected])).toEqual([
      [null, 600_000],
      [h.id("supplier", "BAW"), 1_000_000],
    ]);
    must(
      handInCount(h.desk("tobias"), {
        count: started.count,
        rows: [
          { line: lines[0]!.id, counted: "60" },
          { line: lines[1]!.id, counted: "97" },
        ],
      }),
    );
    must(
      judgeCount(h.desk("ines"), { count: started.count, rows: [{ line: lines[1]!.id, what: "book", seen: 970_000 }] }),
    );
    const version = () => sql<{ version: number }>(h.db, "SELECT version FROM stock_count").get()!.version;
    must(bookCount(h.desk("ines"), { count: started.count, version: version() }));
    expect(left(h)).toEqual([97]);
    expect(uses()).toMatchObject([{ what: "lost", quantity: 3 }]);
    // More than the books say is found: theirs, and as old as today.
    const again = must(startCount(h.desk("tobias"), { store: h.id("store", "TQ"), item: ano() }));
    const theirs = sql<{ id: number }>(
      h.db,
      "SELECT id FROM stock_count_line WHERE stock_count = ? AND owner IS NOT NULL",
    ).get(again.count)!.id;
    must(handInCount(h.desk("tobias"), { count: again.count, rows: [{ line: theirs, counted: "99" }] }));
    must(judgeCount(h.desk("ines"), { count: again.count, rows: [{ line: theirs, what: "book", seen: 990_000 }] }));
    const of = sql<{ version: number }>(h.db, "SELECT version FROM stock_count WHERE id = ?").get(again.count)!;
    must(bookCount(h.desk("ines"), { count: again.count, version: of.version }));
    expect(left(h)).toEqual([97, 2]);
  });

  it("comes back from a job to whom it belongs", () => {
    const agreement = runningAgreement(h, { first: "ours" });
    bring(h, agreement, "100", "2026-09-01");
    must(use("90")); // 60 of ours, 30 of theirs
    const back = (quantity: string) =>
      takeBackFromJob(h.desk("tobias"), {
        store: h.id("store", "TQ"),
        job: job(),
        item: ano(),
        quantity,
        reason: "not used",
      });
    expect(back("70").ok).toBe(true);
    expect(ours().quantity).toBe(60);
    expect(left(h)).toEqual([80]);
    expect(says(back("21"))).toBe("Only 20 each were issued to it.");
  });

  it("lies where no other’s goods go: bins that are kept for them refuse ours", () => {
    must(addBins(h.desk("tobias"), { store: h.id("store", "TQ"), from: "C1", to: "C4" }));
    const agreement = runningAgreement(h, { place: "bins", binsFrom: "C2", binsTo: "C3" });
    must(bring(h, agreement, "100", "2026-09-01"));
    expect(lies()).toBe("C2");
    const move = (to: string, owner: number | null) =>
      moveGoods(h.desk("tobias"), {
        store: h.id("store", "TQ"),
        rows: [{ item: ano(), from: owner ? "C2" : "", to, owner, quantity: "10" }],
      });
    expect(says(move("C3", null))).toBe("Bin C3 is for goods of Brannock alone.");
    expect(move("C3", h.id("supplier", "BAW")).ok).toBe(true);
    expect(move("C4", null).ok).toBe(true);
  });
});
