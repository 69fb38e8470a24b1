import { expect, it } from "vitest";
import { comesOut, figureText } from "../sums/sum";
import { type CountedPlace, countStanding, countSum, countWords, differenceOf, notToBook } from "./stock-count";

const line = (of: Partial<CountedPlace>): CountedPlace => ({
  expected: 100_000,
  lay: null,
  counted: null,
  verdict: "",
  ...of,
});

it("a difference goes by what lay there when it was counted", () => {
  // Ten lay there when the list was made; four were issued; six are found: nothing is missing.
  const l = line({ lay: 60_000, counted: 60_000 });
  expect(differenceOf(l)).toBe(0);
  expect(countWords(differenceOf(l))).toBe("as it should be");
  const missing = line({ lay: 60_000, counted: 45_000 });
  expect(countWords(differenceOf(missing))).toBe("1.5 missing");
  const sum = countSum(missing, "each")!;
  expect(sum.steps.map((x) => [x.op, x.label, figureText(x.figure)])).toEqual([
    ["", "lay there when the list was made", "10 each"],
    ["−", "went since", "4 each"],
    ["=", "lay there when it was counted", "6 each"],
    ["→", "counted", "4.5 each"],
    ["−", "by the books", "6 each"],
    ["=", "missing", "-1.5 each"],
  ]);
  expect(comesOut(sum)).toBe(true);
  expect(countSum(line({ lay: 100_000, counted: 110_000 }), "each")!.steps).toHaveLength(3);
  expect(countWords(differenceOf(line({ lay: 0, counted: 20_000 })))).toBe("2 more");
  expect(countSum(line({}), "each")).toBeNull();
});

it("a count is booked once every difference is decided", () => {
  const same = line({ lay: 100_000, counted: 100_000 });
  const less = line({ lay: 100_000, counted: 90_000 });
  expect(countStanding([same, less, line({})])).toEqual({ counted: 2, left: 1, differ: 1, undecided: 1 });
  expect(notToBook([line({})])).toBe("Nothing of it has been counted.");
  expect(notToBook([same, less])).toBe("One difference is not decided yet.");
  expect(notToBook([less, less])).toBe("2 differences are not decided yet.");
  expect(notToBook([same, { ...less, verdict: "leave" }])).toBeNull();
  expect(notToBook([same, line({ verdict: "again" })])).toBe("Some of it is to be counted again first.");
  expect(notToBook([same, line({})])).toBeNull();
});
