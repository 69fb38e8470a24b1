import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { type LabelGoods, type LabelLayout, labelCode, labelPlace, pointsOf, sheetFault } from "./label";

const goods: LabelGoods = {
  texts: {},
  code: "ANO-11W",
  gtin: "4006381333931",
  lot: "L7",
  serial: false,
  expires: toDay("2027-03-05"),
};
const layout: LabelLayout = {
  kind: "lot",
  width: 700,
  height: 370,
  code: "none",
  fields: [],
  sheet: { width: 2100, height: 2970, left: 0, top: 0, columns: 3, rows: 8, gapX: 0, gapY: 0 },
};

describe("the code of a label", () => {
  it("is of GS1 where the item has a GTIN: its number, last day, and lot or serial number", () => {
    expect(labelCode("GS1 matrix", goods)).toEqual({
      symbology: "gs1datamatrix",
      text: "(01)04006381333931(17)270305(10)L7",
    });
    expect(labelCode("GS1 matrix", { ...goods, serial: true, expires: null })!.text).toBe("(01)04006381333931(21)L7");
  });
  it("is our own code elsewhere, also where GS1 does not take the lot", () => {
    expect(labelCode("GS1 matrix", { ...goods, gtin: "4006381333932" })!.symbology).toBe("datamatrix");
    expect(labelCode("GS1 matrix", { ...goods, gtin: null })).toEqual({ symbology: "datamatrix", text: "ANO-11W" });
    expect(labelCode("GS1 matrix", { ...goods, lot: "Lot ä" })!.text).toBe("ANO-11W");
    expect(labelCode("GS1 matrix", { ...goods, lot: "123456789012345678901" })!.symbology).toBe("datamatrix");
    expect(labelCode("bar code", goods)).toEqual({ symbology: "code128", text: "ANO-11W" });
    expect(labelCode("none", goods)).toBeNull();
  });
});

describe("a sheet of labels", () => {
  it("is filled row by row, after the places that are used", () => {
    expect(labelPlace(layout, 0, 0)).toEqual({ page: 0, x: 0, y: 0 });
    expect(labelPlace(layout, 0, 4)).toEqual({ page: 0, x: 700, y: 370 });
    expect(labelPlace(layout, 24, 0)).toEqual({ page: 1, x: 0, y: 0 });
    expect(labelPlace({ ...layout, sheet: null }, 5, 3)).toEqual({ page: 5, x: 0, y: 0 });
    expect(pointsOf(254)).toBeCloseTo(72, 9);
  });
  it("holds as many as fit", () => {
    expect(sheetFault(layout)).toBeNull();
    expect(sheetFault({ ...layout, sheet: { ...layout.sheet!, left: 1 } })).toBe(
      "3 across are 210.1 mm wide, and the sheet is 210.",
    );
    expect(sheetFault({ ...layout, sheet: { ...layout.sheet!, rows: 9 } })).toBe(
      "9 down are 333 mm high, and the sheet is 297.",
    );
  });
});
