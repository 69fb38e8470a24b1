import { expect, test } from "vitest";
import { heardOf } from "./heard";

test("all as ordered says nothing of lines, whatever else the form holds", () => {
  expect(heardOf({ of: "all", line: "7", "quantity.0": "5", way: "phone" })).toMatchObject({ all: true, lines: [] });
});

test("one line has its parts in the order of their places", () => {
  const sent = {
    of: "line",
    line: "7",
    "quantity.1": "20",
    "day.0": "2026-12-04",
    "day.1": "2026-12-31",
    "quantity.0": "30",
  };
  expect(heardOf(sent).lines).toEqual([
    {
      line: "7",
      cannot: false,
      parts: [
        { quantity: "30", day: "2026-12-04" },
        { quantity: "20", day: "2026-12-31" },
      ],
      price: "",
      instead: "",
      charge: "",
      chargeFor: "",
    },
  ]);
});

test("what cannot be supplied has no parts to read, and places left out are no parts", () => {
  expect(heardOf({ of: "line", line: "7", cannot: "yes" }).lines).toMatchObject([{ cannot: true, parts: [] }]);
  expect(heardOf({ of: "line", line: "7", "day.2": "2026-12-04" }).lines).toMatchObject([
    { parts: [{ quantity: "", day: "2026-12-04" }] },
  ]);
});
