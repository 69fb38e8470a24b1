import { expect, it } from "vitest";
import { alongTheWalk, binRange, naturally, stowInto, withinBins } from "./bins";

it("bins are walked by their place, then as people count", () => {
  const bins = ["A10", "a2", "B1", "A2-1", "Z9", ""].map((code) => ({ code, walk: code === "Z9" ? 1 : null }));
  expect(bins.sort(alongTheWalk).map((b) => b.code)).toEqual(["", "Z9", "a2", "A2-1", "A10", "B1"]);
  expect(naturally("A02", "A2")).toBeGreaterThan(0);
  expect(naturally("A2", "A2")).toBe(0);
});

it("a range of bins is open where an end is not named, and holds both ends", () => {
  expect(["A1", "A2", "A10", "B1"].filter((b) => withinBins(b, "A2", "A10"))).toEqual(["A2", "A10"]);
  expect(["A1", "B1"].filter((b) => withinBins(b, "", "A9"))).toEqual(["A1"]);
  expect(["A1", "B1"].filter((b) => withinBins(b, "A2", ""))).toEqual(["B1"]);
});

it("bins are made one by one or from one number to another", () => {
  expect(binRange("A7", "")).toEqual(["A7"]);
  expect(binRange("A8", "A11")).toEqual(["A8", "A9", "A10", "A11"]);
  expect(binRange("B-01", "B-03")).toEqual(["B-01", "B-02", "B-03"]);
  expect(binRange("A3", "A1")).toBeNull();
  expect(binRange("A1", "B3")).toBeNull();
  expect(binRange("A1", "A501")).toBeNull();
  expect(binRange("A1", "A500")).toHaveLength(500);
  expect(binRange("DOOR", "GATE")).toBeNull();
});

it("goods go to the first bin that takes them", () => {
  const of = { ordered: "", own: "C4", sameLot: "D1", same: "E2" };
  expect(stowInto(of, () => true)).toEqual({ bin: "C4", why: "its own bin" });
  expect(stowInto({ ...of, ordered: "F1" }, () => true)).toEqual({ bin: "F1", why: "ordered for it" });
  expect(stowInto(of, (b) => b !== "C4")).toEqual({ bin: "D1", why: "the same lot lies there" });
  expect(stowInto({ ordered: "", own: "", sameLot: "", same: "E2" }, () => true).why).toBe("it lies there, too");
  expect(stowInto(of, () => false)).toEqual({ bin: "", why: "no bin yet" });
});
