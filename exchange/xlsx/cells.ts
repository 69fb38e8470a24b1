import type { Row, Worksheet } from "exceljs";
import { exponent } from "../../core/numbers/money";

/** What the cells of a row are, by their place from 0; whatever is named nowhere is text. */
export interface Kinds {
  numbers: ReadonlySet<number>;
  /** Days such as 2026-11-24: a spreadsheet reckons with them. */
  days: ReadonlySet<number>;
  /** Amounts, each with its currency, whose places are shown. */
  money: ReadonlyMap<number, string>;
}

/** Adds a row of text to a sheet, with numbers, days and amounts as what they are, and returns it. */
export function addCells(sheet: Worksheet, cells: readonly (string | number)[], kinds: Kinds): Row {
  const row = sheet.addRow(
    cells.map((c, at) => {
      if (c === "") return "";
      if (kinds.numbers.has(at) || kinds.money.has(at)) return Number(c);
      return kinds.days.has(at) ? new Date(`${c}T00:00:00Z`) : c;
    }),
  );
  for (const at of kinds.days) row.getCell(at + 1).numFmt = "yyyy-mm-dd";
  for (const [at, currency] of kinds.money) {
    const places = exponent(currency);
    row.getCell(at + 1).numFmt = places ? `#,##0.${"0".repeat(places)}` : "#,##0";
  }
  return row;
}
