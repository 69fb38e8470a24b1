import { expect, it } from "vitest";
import { ONE } from "../numbers/quantity";
import { countedTotals, totalDifferences } from "./control-totals";

it("holds what a delivery note says against what was counted", () => {
  const counted = countedTotals([
    { counted: 12 * ONE, weight: 60 * ONE },
    { counted: 0, weight: null },
    { counted: 2.5 * ONE, weight: 5 * ONE },
  ]);
  expect(counted).toEqual({ lines: 2, pieces: 14.5 * ONE, weight: 65 * ONE });
  expect(totalDifferences({ lines: 2, pieces: 14.5 * ONE, weight: 65 * ONE }, counted)).toEqual([]);
  expect(totalDifferences({ lines: null, pieces: null, weight: null }, counted)).toEqual([]);
  expect(totalDifferences({ lines: 3, pieces: 15 * ONE, weight: 66 * ONE }, counted)).toEqual([
    "The note says 3 lines, and 2 lines came.",
    "The note says 15 pieces, and 14.5 came.",
    "The note says 66 kg, and 65 kg came.",
  ]);
  expect(
    totalDifferences({ lines: null, pieces: null, weight: ONE }, countedTotals([{ counted: ONE, weight: null }])),
  ).toEqual([]);
});
