import { afterEach, beforeEach, expect, it } from "vitest";
import { openBeside, sql } from "../db/open";
import { type TestHouse, testHouse } from "../testing";
import { remember } from "./remember";

let h: TestHouse;
let readings: number;
beforeEach(() => {
  h = testHouse();
  readings = 0;
});
afterEach(() => h.close());
const read = (name = "counts") => remember(h.db, name, () => ++readings);

it("reads once, until this connection or another changes anything", () => {
  expect([read(), read(), read()]).toEqual([1, 1, 1]);
  sql(h.db, "UPDATE company SET name = 'A'").run();
  expect([read(), read()]).toEqual([2, 2]);
  const other = openBeside(h.db.name);
  sql(other, "UPDATE company SET name = 'B'").run();
  other.close();
  expect([read(), read()]).toEqual([3, 3]);
});

it("keeps nothing as well as anything, and only so much at a time", () => {
  const nothing = () => remember(h.db, "nothing", () => void ++readings);
  nothing();
  nothing();
  expect(readings).toBe(1);
  for (let i = 0; i < 300; i++) read(`list ${i}`);
  const before = readings;
  read("list 299");
  expect(readings).toBe(before);
  read("list 0");
  expect(readings).toBe(before + 1);
});
