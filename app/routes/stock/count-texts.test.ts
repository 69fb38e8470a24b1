import { expect, it } from "vitest";
import { readScan } from "../../../exchange/gs1/scan";
import type { PlaceSeen } from "../../../server/queries/stock/stock-counts";
import { countable, judged, scannedPlace, sentCounts, wrongCount } from "./count-texts";
import { labelTexts, movedField, NEW_LABEL, sentLabel } from "./label-texts";

const place = (id: number, more: Partial<PlaceSeen> = {}): PlaceSeen => ({
  id,
  item: id,
  code: `T-${id}`,
  name: `Thing ${id}`,
  gtin: null,
  unit: "each",
  bin: "A1",
  lot: null,
  expires: null,
  owner: null,
  found: false,
  counted: null,
  by: null,
  mine: false,
  verdict: "",
  reason: "",
  books: null,
  booked: null,
  value: null,
  ...more,
});
const scan = (text: string) => {
  const read = readScan(text);
  if (!read.ok) throw new Error(read.says);
  return read.value;
};

it("what was typed is sent for lines that nobody else counted; nought is a count, nothing is none", () => {
  const lines = [place(1), place(2), place(3, { counted: 10_000 }), place(4, { counted: 10_000, mine: true })];
  expect(lines.map(countable)).toEqual([true, true, false, true]);
  const found = [{ item: 9, name: "Bolt", unit: "each", bin: "A3", lot: "", counted: "4" }];
  expect(sentCounts({ rows: { 1: "0", 2: " ", 3: "5", 4: "6" }, found }, lines)).toEqual({
    rows: [
      { line: 1, counted: "0" },
      { line: 4, counted: "6" },
    ],
    found: [{ item: 9, bin: "A3", lot: "", counted: "4" }],
  });
  expect([wrongCount(""), wrongCount("0"), wrongCount("1.5")]).toEqual([null, null, null]);
  expect(wrongCount("two")).toMatch(/number/);
});

it("a scan means the goods of the bin where one stands, before the same goods elsewhere", () => {
  const lines = [place(1), place(2, { code: "T-1", bin: "B4" }), place(3, { code: "T-1", bin: "B4", lot: "L9" })];
  expect(scannedPlace(lines, { rows: {}, found: [] }, null, scan("t-1"))?.id).toBe(1);
  expect(scannedPlace(lines, { rows: {}, found: [] }, "B4", scan("T-1"))?.id).toBe(2);
  expect(scannedPlace(lines, { rows: { 2: "3" }, found: [] }, "B4", scan("T-1"))?.id).toBe(3);
  expect(scannedPlace(lines, { rows: {}, found: [] }, "C1", scan("l9"))?.id).toBe(3);
  expect(scannedPlace(lines, { rows: {}, found: [] }, "B4", scan("T-2"))).toBeNull();
  expect(judged(lines[0]!)).toBeNull();
});

it("a layout of labels is typed as it is kept, and its fields change places", () => {
  const typed = labelTexts(NEW_LABEL);
  expect(sentLabel(typed)).toEqual({
    kind: "item",
    width: "70",
    height: "37",
    code: "bar code",
    fields: [
      { field: "name", size: "9", bold: true },
      { field: "code", size: "8", bold: false },
    ],
    sheet: null,
  });
  expect(
    movedField(typed, 0, 1)
      .fields.slice(0, 2)
      .map((f) => f.field),
  ).toEqual(["code", "name"]);
  expect(movedField(typed, 0, -1).fields[0]!.field).toBe("name");
  expect(movedField(typed, 99, 1)).toBe(typed);
  expect(sentLabel({ ...typed, roll: false }).sheet).toMatchObject({ width: "210", columns: "3" });
});
