import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { readRequisition } from "../../queries/requisitions/requisition";
import { must, refusal, stateOf, type TestHouse, TODAY, testHouse } from "../../testing";
import { sign } from "../signoff/sign";
import { dropRequisition, saveRequisition, startRequisition, submitRequisition } from "./raise-requisition";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const line = (item: number | "", quantity: string, words = "", estimate = "") => ({ item, quantity, words, estimate });
const start = (who = "joss") => must(startRequisition(h.desk(who))).requisition;
const save = (requisition: number, lines: unknown[], more: object = {}, who = "joss") =>
  saveRequisition(h.desk(who), {
    requisition,
    version: 1,
    store: h.id("store", "HS"),
    neededBy: "2026-12-11",
    reason: "Refit of Marram",
    lines,
    ...more,
  });
const submit = (requisition: number, version = 2) => submitRequisition(h.desk("joss"), { requisition, version });

describe("a requisition", () => {
  it("keeps half-filled lines while it is typed, and questions them when it is handed in", () => {
    const id = start();
    must(save(id, [line("", ""), line(h.id("item", "ANO"), "")], { neededBy: "", reason: "" }));
    expect(refusal(submit(id))).toEqual([
      "neededBy: Say by when it is needed.",
      "reason: Say what it is for: the buyer and whoever signs will ask.",
      "lines.0.item: Find an item, or describe the service.",
      "lines.0.quantity: How many?",
      "lines.1.quantity: How many?",
    ]);
    expect(stateOf(h.db, "requisition", id)).toBe("Draft");
  });

  it("goes straight to the pool at 800.00, and to the yard manager a cent above", () => {
    for (const [estimate, state] of [
      ["800.00", "Open"],
      ["800.01", "In sign-off"],
    ] as const) {
      const id = start();
      must(save(id, [line("", "1", "Stability check", estimate)]));
      must(submit(id));
      expect(stateOf(h.db, "requisition", id)).toBe(state);
    }
    expect(
      readNeeds(h.db, usualPlan(TODAY))
        .filter((n) => n.source === "requisition")
        .map((n) => [n.name, n.supplier]),
    ).toEqual([["Stability check", null]]);
  });

  it("asks for an estimate where nobody knows what an item costs, and goes by it", () => {
    sql(h.db, "UPDATE item SET reference_cost = NULL WHERE code = 'ROP'").run();
    sql(h.db, "UPDATE item SET reference_cost = 0 WHERE code = 'OIL'").run();
    for (const code of ["ROP", "OIL"]) {
      const id = start();
      must(save(id, [line(h.id("item", code), "4000")]));
      expect(refusal(submit(id))).toEqual(["lines.0.estimate: About how much? It decides who signs."]);
      must(save(id, [line(h.id("item", code), "4000", "", "9000")], { version: 2 }));
      expect(must(submit(id, 3)).waitsFor).toBe("Yard manager");
    }
  });

  it("takes no estimate for what is known to cost more", () => {
    const id = start();
    must(save(id, [line(h.id("item", "ANO"), "40", "", "0.01")]));
    expect(readRequisition(h.db, id)!.about).toBe(124_800);
    expect(must(submit(id)).waitsFor).toBe("Yard manager");
  });

  it("opens to the buyer once it is signed, and tells the asker", () => {
    const id = start();
    must(save(id, [line(h.id("item", "ANO"), "40")]));
    expect(must(submit(id))).toMatchObject({ number: "R26-1001", waitsFor: "Yard manager" });
    must(sign(h.desk("maud"), { paper: "requisition", id, version: 3 }));
    const sheet = readRequisition(h.db, id)!;
    expect([sheet.head.state, sheet.about]).toEqual(["Open", 124_800]);
    expect(sheet.trail.map((t) => t.text)).toEqual(["Requisition R26-1001 submitted", "Signed by Maud"]);
    expect(sql<{ text: string }>(h.db, "SELECT text FROM notice WHERE person = ?").all(h.id("person", "joss"))).toEqual(
      [{ text: "Requisition R26-1001 is signed off" }],
    );
    expect(readNeeds(h.db, usualPlan(TODAY)).find((n) => n.key.startsWith("r:"))).toMatchObject({
      code: "ANO",
      buy: 400_000,
      orderBy: "2026-11-29",
      lateBy: 0,
    });
  });

  it("belongs to its asker, whatever id a form names", () => {
    const id = start();
    expect(refusal(save(id, [], {}, "anders"))).toEqual(["This requisition is not yours, or is gone."]);
    expect(refusal(submitRequisition(h.desk("anders"), { requisition: id, version: 1 }))).toEqual([
      "This requisition is not yours, or is gone.",
    ]);
    expect(refusal(startRequisition(h.desk("tobias")))).toEqual(["Your role does not allow this."]);
  });

  it("is not overwritten by a second window", () => {
    const id = start();
    must(save(id, [line(h.id("item", "ANO"), "40")]));
    const second = save(id, [line(h.id("item", "ANO"), "5")]);
    expect(second).toMatchObject({ ok: false, stale: true });
    expect(readRequisition(h.db, id)!.lines[0]!.quantity).toBe(400_000);
  });

  it.each([
    [line(99_999, "1"), "lines.0.item: There is no such item."],
    [line("", "-1", "x"), "lines.0.quantity: A quantity cannot be negative."],
    [line("", "1e9", "x"), "lines.0.quantity: “1e9” is not a number. Write it like 12.5."],
    [line("", "200000000", "x"), "lines.0.quantity: A quantity above 100,000,000 is surely a slip."],
    [line("", "1", "x".repeat(201)), "lines.0.words: At most 200 characters."],
    [line("", "1", "x", "1.234"), "lines.0.estimate: At most 2 places after the point."],
  ])("refuses %j in its own field", (l, says) => {
    const id = start();
    expect(refusal(save(id, [l]))).toEqual([says]);
    expect(readRequisition(h.db, id)!.lines).toEqual([]);
  });

  it("refuses dates that do not exist or have passed, and keeps text as text", () => {
    const id = start();
    expect(refusal(save(id, [], { neededBy: "2026-02-30" }))[0]).toMatch(/^neededBy: There is no such date/);
    must(save(id, [line("", "1", "<script>alert(1)</script>", "5")], { neededBy: "2026-11-23" }));
    expect(refusal(submit(id))).toEqual(["neededBy: This day has passed."]);
    expect(readRequisition(h.db, id)!.lines[0]!.words).toBe("<script>alert(1)</script>");
  });

  it("is handed in once, however often the button is pressed", () => {
    const id = start();
    must(save(id, [line(h.id("item", "ANO"), "4")]));
    const twice = [1, 2].map(() =>
      must(submitRequisition(h.desk("joss", "pressed-twice"), { requisition: id, version: 2 })),
    );
    expect(twice[0]).toEqual(twice[1]);
    expect(
      sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM audit WHERE act = 'requisition.submitted'").get()!.n,
    ).toBe(1);
  });

  it("leaves no gap in the numbers when a draft is thrown away", () => {
    const gone = start();
    must(dropRequisition(h.desk("joss"), { requisition: gone, version: 1 }));
    const id = start();
    must(save(id, [line(h.id("item", "ANO"), "4")]));
    expect(must(submit(id)).number).toBe("R26-1001");
    expect(brokenTruths(h.db)).toEqual([]);
  });
});
