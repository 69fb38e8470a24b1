import { expect, test } from "vitest";
import { isOneOf, keysOf, recordOf } from "./keys";

test("keys keep their order, and a record has each of them", () => {
  const sizes = { small: 1, large: 2 } as const;
  expect(keysOf(sizes)).toEqual(["small", "large"]);
  expect(recordOf(keysOf(sizes), (key) => key.length)).toEqual({ small: 5, large: 5 });
});

test("a value is one of a list only as itself", () => {
  expect(isOneOf(["1", "2"], "2")).toBe(true);
  expect(isOneOf(["1", "2"], 2)).toBe(false);
  expect(isOneOf(["1"], "toString")).toBe(false);
});
