import { expect, it } from "vitest";
import { readScan, type Scanned } from "../../../exchange/gs1/scan";
import type { Stowable } from "../../../server/queries/stock/shelves";
import { scannedRow, stowedRows, stowKey, stowRow } from "./stowing";

const row = (item: number, more: Partial<Stowable> = {}): Stowable => ({
  item,
  code: `T-${item}`,
  name: `Thing ${item}`,
  gtin: null,
  unit: "each",
  unitCode: "C62",
  bin: "",
  walk: null,
  lot: null,
  lotCode: null,
  expires: null,
  held: "",
  quantity: 120_000,
  owner: null,
  ownerName: null,
  into: "A2",
  intoWalk: null,
  why: "its own bin",
  ...more,
});
const scan = (text: string): Scanned => {
  const read = readScan(text);
  if (!read.ok) throw new Error(read.says);
  return read.value;
};

it("a row is put away whole into the bin that is proposed, unless somebody says otherwise", () => {
  expect(stowRow(row(1))).toEqual({ done: false, quantity: "12", into: "A2", wrong: null });
  expect(stowRow(row(1), { quantity: "13" }).wrong).toBe("Only 12 lie on the dock.");
  expect(stowRow(row(1), { quantity: "none" }).wrong).toMatch(/number/);
  expect(stowRow(row(1, { into: "" })).wrong).toBe("Which bin?");
  expect(stowRow(row(1, { into: "" }), { into: "B7" }).wrong).toBeNull();
});

it("what is ticked is sent, in the order of the walk", () => {
  const rows = [row(1), row(2), row(3, { lot: 8, lotCode: "L8" })];
  const typed = { "3/8/0": { done: true, into: " c4 ", quantity: "5" }, "1/0/0": { done: true } };
  expect(rows.map(stowKey)).toEqual(["1/0/0", "2/0/0", "3/8/0"]);
  expect(stowedRows(rows, typed)).toEqual([
    { item: 1, lot: null, owner: null, from: "", to: "A2", quantity: "12" },
    { item: 3, lot: 8, owner: null, from: "", to: "c4", quantity: "5" },
  ]);
});

it("a scan means goods by code, lot or GTIN; of two lots the one that it names, else the first that is not put away", () => {
  const gtin = "4006381333931";
  const rows = [row(1, { gtin, lot: 7, lotCode: "A" }), row(1, { gtin, lot: 8, lotCode: "B" }), row(2)];
  expect(scannedRow(rows, {}, scan(`(01)0${gtin}(10)B`))?.lot).toBe(8);
  expect(scannedRow(rows, {}, scan(gtin))).toBeNull(); // plain digits are a code of ours
  expect(scannedRow(rows, { "1/7/0": { done: true } }, scan("t-1"))?.lot).toBe(8);
  expect(scannedRow(rows, {}, scan("b"))?.lot).toBe(8);
  expect(scannedRow(rows, {}, scan("T-9"))).toBeNull();
});
