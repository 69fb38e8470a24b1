import { expect, it } from "vitest";
import { pastedRows } from "./pasted-rows";

const row = (code: string, quantity = "", price = "", required = "", note = "") => ({
  code,
  quantity,
  price,
  required,
  note,
});

it("rows of a spreadsheet: code, quantity, price, day, and what else is a note", () => {
  expect(pastedRows("OIL\t4\t12.50\t2026-12-01\tfor the\tquay\r\nROP\t2\n")).toEqual([
    row("OIL", "4", "12.50", "2026-12-01", "for the quay"),
    row("ROP", "2"),
  ]);
});

it("a first row of words is its head, unless it is all there is", () => {
  expect(pastedRows("Item\tQuantity\nOIL\t4")).toEqual([row("OIL", "4")]);
  expect(pastedRows("OIL\tfour")).toEqual([row("OIL", "four")]);
  expect(pastedRows("OIL\nROP")).toEqual([row("OIL"), row("ROP")]); // one column of codes has no head
});
