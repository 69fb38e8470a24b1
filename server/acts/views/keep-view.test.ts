import { afterEach, beforeEach, expect, it } from "vitest";
import { brokenTruths } from "../../queries/always-true";
import { must, refusal, type TestHouse, testHouse } from "../../testing";
import { dropView, keepView, readViews } from "./keep-view";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const views = (login = "ines", sheet: "needs" | "review" = "needs") =>
  readViews(h.db, h.id("person", login), sheet).map((v) => `${v.name}: ${v.address}`);

it("keeps how a sheet stands under a name, for its person and its sheet alone", () => {
  must(keepView(h.desk("ines"), { sheet: "needs", name: "Late oil", address: "late=yes&category=Oil" }));
  must(keepView(h.desk("ines"), { sheet: "needs", name: "By store", address: "group=store" }));
  must(keepView(h.desk("ines"), { sheet: "review", name: "By store", address: "store=1" }));
  expect([views(), views("ines", "review"), views("maud")]).toEqual([
    ["By store: group=store", "Late oil: late=yes&category=Oil"],
    ["By store: store=1"],
    [],
  ]);
});

it("replaces a view of the same name, however it is written", () => {
  const { view } = must(keepView(h.desk("ines"), { sheet: "needs", name: "By store", address: "group=store" }));
  expect(must(keepView(h.desk("ines"), { sheet: "needs", name: "by STORE", address: "group=date" })).view).toBe(view);
  expect(views()).toEqual(["By store: group=date"]);
});

it("is dropped by its own person, once", () => {
  const { view } = must(keepView(h.desk("ines"), { sheet: "needs", name: "Mine", address: "" }));
  expect(refusal(dropView(h.desk("maud"), { view }))).toEqual(["Your role does not allow this."]);
  must(dropView(h.desk("ines"), { view }));
  expect(views()).toEqual([]);
  expect(refusal(dropView(h.desk("ines"), { view }))).toEqual(["This view is gone already."]);
});

it("wants a name of a readable length, and a sheet that there is", () => {
  expect(refusal(keepView(h.desk("ines"), { sheet: "needs", name: " ", address: "" }))).toEqual([
    "name: Give the view a name.",
  ]);
  expect(refusal(keepView(h.desk("ines"), { sheet: "needs", name: "x".repeat(41), address: "" }))).toHaveLength(1);
  expect(refusal(keepView(h.desk("ines"), { sheet: "people", name: "x", address: "" }))).toHaveLength(1);
  expect(refusal(keepView(h.desk("joss"), { sheet: "needs", name: "x", address: "" }))).toEqual([
    "Your role does not allow this.",
  ]);
});

it("of the orders is for whoever sees orders", () => {
  const { view } = must(keepView(h.desk("maud"), { sheet: "orders", name: "Large", address: "sort=-net" }));
  expect(readViews(h.db, h.id("person", "maud"), "orders").map((v) => v.name)).toEqual(["Large"]);
  expect(refusal(keepView(h.desk("joss"), { sheet: "orders", name: "x", address: "" }))).toEqual([
    "Your role does not allow this.",
  ]);
  must(dropView(h.desk("maud"), { view }));
});
