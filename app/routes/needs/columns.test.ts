import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { NEED_SHEET_COLUMNS } from "./columns";

const { all: COLUMNS, inAddress: columnsIn, text: columnsText } = NEED_SHEET_COLUMNS;
const USUAL = ["item", "hand", "committed", "order", "available", "tide", "by", "chance", "buy", "unit"];

describe("columns in the address", () => {
  it("are the usual ones where it names none, and need not be named then", () => {
    expect(columnsIn(null).map((c) => c.key)).toEqual(USUAL);
    expect(columnsText(columnsIn(null))).toBeNull();
  });
  it("leave out what is unknown or named twice, keep the item first, and hold widths within reason", () => {
    expect(columnsIn("cover.5,nonsense,cover.90,item.9999,by.x")).toEqual([
      { key: "item", width: 640 },
      { key: "cover", width: 44 },
      { key: "by", width: COLUMNS.by!.width },
    ]);
  });
  it("read back as they were written", () => {
    const chosen = fc.uniqueArray(
      fc.record({ key: fc.constantFrom(...Object.keys(COLUMNS)), width: fc.integer({ min: 44, max: 640 }) }),
      { selector: (c) => c.key },
    );
    fc.assert(
      fc.property(chosen, (columns) => {
        const all = [{ key: "item", width: 210 }, ...columns.filter((c) => c.key !== "item")];
        expect(columnsIn(columnsText(all))).toEqual(all);
      }),
    );
  });
});
