import ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { readAnyTable } from "./read-workbook";

async function workbook(rows: unknown[][]): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Needs");
  for (const row of rows) sheet.addRow(row);
  return new Uint8Array(await book.xlsx.writeBuffer());
}
const read = async (rows: unknown[][], mark: "." | "," = ".") => readAnyTable(await workbook(rows), mark);

describe("a workbook", () => {
  it("reads as the same rows of a CSV file would: numbers exact, days as days, formulas by their result", async () => {
    const found = await read([
      ["Item", "Quantity", "Needed by", "Note"],
      ["OIL", 0.1 + 0.2, new Date("2026-12-11T00:00:00Z"), { richText: [{ text: "two " }, { text: "drums" }] }],
      [123, { formula: "B2*10", result: 3 }, "2026-12-12", true],
    ]);
    expect(found).toEqual({
      ok: true,
      table: {
        columns: ["item", "quantity", "needed by", "note"],
        rows: [
          { line: 2, cells: ["OIL", "0.3", "2026-12-11", "two drums"] },
          { line: 3, cells: ["123", "3", "2026-12-12", "yes"] },
        ],
      },
    });
  });
  it("writes decimals with the mark that the file is said to use, and leaves empty rows out", async () => {
    const found = await read([["item", "quantity"], [], ["OIL", 2.5]], ",");
    expect(found.ok && found.table.rows).toEqual([{ line: 3, cells: ["OIL", "2,5"] }]);
  });
  it("names what it cannot read", async () => {
    expect(await read([["item"], [{ error: "#REF!" }]])).toEqual({
      ok: false,
      faults: [{ line: 2, column: "A2", found: "", says: "This cell holds a fault instead of a value." }],
    });
    const broken = new Uint8Array([0x50, 0x4b, 3, 4, 1, 2, 3]);
    expect(await readAnyTable(broken, ".")).toMatchObject({
      ok: false,
      faults: [{ says: expect.stringMatching(/not a workbook/) }],
    });
    expect(await read([])).toMatchObject({ ok: false, faults: [{ says: "The first sheet is empty." }] });
  });
  it("does not unpack what would fill the memory", async () => {
    const bytes = await workbook([["item"], ["OIL"]]);
    const at = bytes.findIndex(
      (_, i) => bytes[i] === 0x50 && bytes[i + 1] === 0x4b && bytes[i + 2] === 1 && bytes[i + 3] === 2,
    );
    new DataView(bytes.buffer, bytes.byteOffset).setUint32(at + 24, 0xffff_fff0, true);
    expect(await readAnyTable(bytes, ".")).toMatchObject({
      ok: false,
      faults: [{ says: expect.stringMatching(/far larger unpacked/) }],
    });
  });
  it("leaves text files to the CSV reader", async () => {
    expect(await readAnyTable(Buffer.from("a,b\n1,2\n"), ".")).toMatchObject({
      ok: true,
      table: { columns: ["a", "b"] },
    });
  });
});
