import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { readItem, readMovements, readSuppliersToAdd } from "../../queries/records/item";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { keepStoreDays, keepSupplierDays } from "./keep-calendar";
import { dropAlternative, keepAlternative, keepItem, keepReordering } from "./keep-item";
import { dropSourcing, keepSourcing } from "./keep-sourcing";

const PLAN = usualPlan(TODAY, 9);
let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});
const item = (code: string) => h.id("item", code);
const supplier = (code: string) => sql<{ id: number }>(h.db, "SELECT id FROM supplier WHERE code = ?").get(code)!.id;
const oil = (prices = true) => readItem(h.db, item("OIL"), PLAN, prices)!;
const oilNeed = () => readNeeds(h.db, PLAN).find((n) => n.code === "OIL")!;

const SOURCE = {
  sourcing: "",
  theirCode: "B-1",
  theirName: "",
  unit: "XKG",
  factor: "20",
  minimum: "",
  multiple: "",
  brokenPacks: "",
  leadDays: "3",
  standing: "",
  preferred: "",
  breaks: [{ from: "1", price: "70", validFrom: "", validTo: "" }],
};

describe("a sourcing record", () => {
  it("is added where a supplier is missing, behind the preferred one, with its prices", () => {
    expect(readSuppliersToAdd(h.db, item("OIL")).suppliers.map((s) => s.name)).toEqual(["Brannock"]);
    must(keepSourcing(h.desk("ines"), { ...SOURCE, item: item("OIL"), supplier: supplier("BAW") }));
    expect(oil().sources.map((s) => [s.supplierName, s.preferred, s.breaks!.map((b) => b.price)])).toEqual([
      ["Tern & Tallow", true, [660_000_000, 624_000_000, 588_000_000]],
      ["Brannock", false, [70_000_000]],
    ]);
    expect(readSuppliersToAdd(h.db, item("OIL")).suppliers).toEqual([]);
    expect(oilNeed().supplier!.name).toBe("Tern & Tallow");
  });
  it("becomes the preferred one, and the needs follow at once", () => {
    const { sourcing } = must(
      keepSourcing(h.desk("ines"), { ...SOURCE, item: item("OIL"), supplier: supplier("BAW"), preferred: "on" }),
    );
    expect([oilNeed().supplier!.name, oilNeed().buy]).toEqual(["Brannock", 800_000]);
    must(dropSourcing(h.desk("ines"), { sourcing }));
    expect(oilNeed().supplier!.name).toBe("Tern & Tallow");
    expect(refusal(dropSourcing(h.desk("ines"), { sourcing }))).toEqual(["This record is gone already."]);
    must(keepSourcing(h.desk("ines"), { ...SOURCE, item: item("OIL"), supplier: supplier("BAW"), factor: "25" }));
    expect(oil().sources.map((s) => [s.id === sourcing, s.factor])).toEqual([
      [false, 2_000_000],
      [true, 250_000],
    ]);
  });
  it.each([
    [{ factor: "0" }, "factor: A quantity must be above zero."],
    [{ factor: "" }, "factor: A number is missing."],
    [{ leadDays: "900" }, "leadDays: A whole number from 0 to 730."],
    [{ unit: "XYZ" }, "unit: There is no such unit."],
    [{ unit: "LTR" }, "factor: It is sold in its own stock unit, so one is one."],
    [{ standing: "101" }, "standing: Between 0 and 100 percent."],
    [{ breaks: [{ from: "1", price: "", validFrom: "", validTo: "" }] }, "breaks.0.price: A price is missing."],
    [
      { breaks: [{ from: "1", price: "5", validFrom: "2026-12-02", validTo: "2026-12-01" }] },
      "breaks.0.validTo: The last day lies before the first.",
    ],
    [
      { breaks: [1, 2].map((price) => ({ from: "1", price: String(price), validFrom: "", validTo: "" })) },
      "breaks.1.from: This quantity stands here twice from the same day.",
    ],
  ])("refuses %j in its own field", (part, says) => {
    const answer = keepSourcing(h.desk("ines"), { ...SOURCE, item: item("OIL"), supplier: supplier("BAW"), ...part });
    expect(refusal(answer)).toEqual([says]);
    expect(oil().sources.length).toBe(1);
  });
  it("is kept by buyers, and not twice for one supplier", () => {
    expect(refusal(keepSourcing(h.desk("joss"), { ...SOURCE, item: item("OIL"), supplier: supplier("BAW") }))).toEqual([
      "Your role does not allow this.",
    ]);
    expect(refusal(keepSourcing(h.desk("ines"), { ...SOURCE, item: item("OIL"), supplier: supplier("TTL") }))).toEqual([
      "supplier: This supplier is set up for this item already.",
    ]);
  });
});

describe("an item", () => {
  const fields = {
    item: "",
    code: "PMP-1",
    name: "Bilge pump",
    kind: "stocked",
    category: "Pumps",
    unit: "C62",
    gtin: "",
    tax: "20",
    referenceCost: "148",
    account: "",
    byLot: "",
    weight: "12.5",
  };
  it("is made, kept at a store, and needed once it falls short there", () => {
    const made = must(keepItem(h.desk("osk"), fields)).item;
    const reorder = {
      item: made,
      store: h.id("store", "TQ"),
      policy: "shortfall",
      reorderPoint: "2",
      lot: "",
      level: "",
      coverDays: "",
      maximum: "",
      reviewDays: "7",
      bin: "A1",
    };
    must(keepReordering(h.desk("ines"), reorder));
    expect(readNeeds(h.db, PLAN).find((n) => n.item === made)).toMatchObject({ wanted: 20_000, supplier: null });
    expect(refusal(keepReordering(h.desk("ines"), { ...reorder, policy: "top up", level: "1" }))).toEqual([
      "level: The level lies below the reorder point, so topping up would never reach it.",
    ]);
    expect(refusal(keepReordering(h.desk("ines"), { ...reorder, policy: "days of cover" }))).toEqual([
      "coverDays: The policy “days of cover” needs a number of days above zero.",
    ]);
    expect(refusal(keepItem(h.desk("osk"), { ...fields, item: made, kind: "service" }))).toEqual([
      "kind: A store keeps this item, so it stays stocked.",
    ]);
  });
  it("says what is wrong in its own field, and leaves items to those who keep them", () => {
    expect(refusal(keepItem(h.desk("osk"), { ...fields, code: "OIL", gtin: "4006381333932", unit: "XX" }))).toEqual([
      "gtin: A GTIN has 8, 12, 13 or 14 digits, and its last digit must fit.",
    ]);
    expect(
      refusal(keepItem(h.desk("osk"), { ...fields, code: "OIL", gtin: "4006381333931", unit: "XX", account: "9" })),
    ).toEqual([
      "code: Another item has this code.",
      "gtin: Another item has this GTIN.",
      "unit: There is no such unit.",
      "account: There is no such account.",
    ]);
    expect(refusal(keepItem(h.desk("osk"), { ...fields, item: item("OIL"), code: "OIL" }))).toEqual([
      "unit: The stock unit cannot change: goods were moved in the old one.",
    ]);
    expect(refusal(keepItem(h.desk("ines"), fields))).toEqual(["Your role does not allow this."]);
  });
  it("shows its movements with what is on hand after each, and prices only to those who see them", () => {
    const { rows } = readMovements(h.db, item("OIL"), h.id("store", "TQ"), null);
    expect(rows.map((m) => [m.kind, m.quantity, m.after])).toEqual([["opening", 3_400_000, 3_400_000]]);
    expect(oil().kept[0]).toMatchObject({ name: "Tarn Quay", committed: 2_600_000, available: 800_000 });
    expect([oil(false).sources[0]!.breaks, oil(false).paid, oil(false).head.referenceCost]).toEqual([null, null, null]);
  });
});

describe("what may stand in for an item", () => {
  it("goes one way or both, and never in a ring", () => {
    const name = (from: string, other: string, bothWays = "") =>
      keepAlternative(h.desk("ines"), { item: item(from), other: item(other), bothWays, note: "" });
    must(name("OIL", "ANO"));
    must(name("ANO", "ROP"));
    expect(refusal(name("ROP", "OIL"))).toEqual([
      "other: This leads back to itself: ROP, OIL, ANO, ROP. Let one of them stand in both ways instead.",
    ]);
    expect(refusal(name("OIL", "OIL"))).toEqual(["other: An item cannot stand in for itself."]);
    must(name("ROP", "OIL", "on"));
    expect(oil().alternatives.map((a) => a.code)).toEqual(["ANO", "ROP"]);
    must(dropAlternative(h.desk("ines"), { item: item("OIL"), other: item("ROP") }));
    expect(oil().alternatives.map((a) => a.code)).toEqual(["ANO"]);
  });
});

describe("calendars", () => {
  const days = { delivers: ["0", "3"], leadKind: "calendar", region: "", cutOff: "", buyer: "" };
  it("move arrival and order-by: the boat on Mondays and Thursdays, holidays, the cut-off hour", () => {
    const keep = (part: object) =>
      must(keepSupplierDays(h.desk("ines"), { ...days, supplier: supplier("TTL"), ...part }));
    keep({});
    expect([oilNeed().arrives, oilNeed().orderBy]).toEqual(["2026-12-07", "2026-11-13"]);
    keep({ delivers: ["0", "1", "2", "3", "4"] });
    expect(oilNeed().arrives).toBe("2026-12-04");
    keep({ delivers: ["0", "1", "2", "3", "4"], cutOff: "9" });
    expect(oilNeed().arrives).toBe("2026-12-07"); // counts as sent on Wednesday: Saturday, so Monday
    keep({ delivers: ["0", "1", "2", "3", "4"], leadKind: "working", region: "us" });
    expect(oilNeed().arrives).toBe("2026-12-09"); // ten working days, without the fourth Thursday of November
    must(keepStoreDays(h.desk("osk"), { store: h.id("store", "TQ"), receives: ["0"], region: "" }));
    expect(oilNeed().arrives).toBe("2026-12-14");
  });
  it("that never open, or that nobody knows, are refused", () => {
    const keep = (part: object) =>
      refusal(keepSupplierDays(h.desk("ines"), { ...days, supplier: supplier("TTL"), ...part }));
    expect(keep({ delivers: [] })).toEqual([
      "delivers: Choose at least one weekday: a calendar that never opens brings nothing.",
    ]);
    expect(keep({ region: "ATLANTIS" })).toEqual(["region: We know no holidays of such a region."]);
    expect(keep({ cutOff: "25" })).toEqual(["cutOff: A full hour from 1 to 23."]);
    expect(keep({ buyer: h.id("person", "joss") })).toEqual(["buyer: This person is not a buyer."]);
    must(keepStoreDays(h.desk("osk"), { store: h.id("store", "TQ"), receives: ["1"], region: "" }));
    must(keepSupplierDays(h.desk("ines"), { ...days, delivers: ["0"], supplier: supplier("TTL") }));
    expect([oilNeed().arrives, oilNeed().orderBy]).toEqual([null, null]); // they share no day: never arrives
  });
});
