import ExcelJS from "exceljs";
import { zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { readAnyTable } from "./read-workbook";

async function workbook(rows: unknown[][]): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Needs");
  for (const row of rows) sheet.addRow(row);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

const NS =
  'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"';
const KIND = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

/** A workbook written by hand: what stands in its sheet “b”, and in which order its sheets stand. */
function sheet(rows: string, sheets = '<sheet name="B" sheetId="1" r:id="b"/>', after = "", before = ""): Uint8Array {
  const parts: Record<string, string> = {
    "_rels/.rels": `<Relationships><Relationship Id="r" Type="${KIND}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    "xl/workbook.xml": `<workbook ${NS}><sheets>${sheets}</sheets></workbook>`,
    "xl/_rels/workbook.xml.rels": `<Relationships><Relationship Id="a" Type="${KIND}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="b" Type="${KIND}/worksheet" Target="/xl/worksheets/sheet2.xml"/></Relationships>`,
    "xl/worksheets/sheet1.xml": `<worksheet ${NS}><sheetData><row><c><v>1</v></c></row></sheetData></worksheet>`,
    "xl/worksheets/sheet2.xml": `<?xml version="1.0"?>${before}<worksheet ${NS}><sheetData>${rows}</sheetData>${after}</worksheet>`,
  };
  return zipSync(Object.fromEntries(Object.entries(parts).map(([name, text]) => [name, Buffer.from(text)])), {
    level: 1,
  });
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
      faults: [{ line: 2, column: "A2", found: "#REF!", says: "This cell holds a fault instead of a value." }],
    });
    const broken = new Uint8Array([0x50, 0x4b, 3, 4, 1, 2, 3]);
    expect(await readAnyTable(broken, ".")).toMatchObject({
      ok: false,
      faults: [{ says: expect.stringMatching(/not a workbook/) }],
    });
    expect(await read([])).toMatchObject({ ok: false, faults: [{ says: "The first sheet is empty." }] });
  });
  it("reads days by the format of their cell, and texts with their letters whole, however the file is cut", async () => {
    const rows = Array.from({ length: 9_000 }, (_, i) => [
      `Bøye ${i}, rød – 第${i}`,
      new Date(Date.UTC(2026, 10, 1 + (i % 30))),
    ]);
    const found = await read([["name", "day"], ...rows]);
    expect(found.ok && found.table.rows.map((r) => r.cells)).toEqual(
      rows.map(([name, day]) => [name, (day as Date).toISOString().slice(0, 10)]),
    );
  });
  it("takes the first sheet by the order of the book, cells without an address, and texts as they are escaped", async () => {
    const found = await readAnyTable(
      sheet(
        `<row><c t="inlineStr"><is><t>Item</t></is></c><c t="inlineStr"><is><r><t>No</t></r><r><t>te</t></r><rPh><t>x</t></rPh></is></c></row>
         <row r="7"><c r="B7" t="str"><f>A1</f><v>a_x000D_b &amp; c</v></c><c r="A7"><v>12</v></c></row>`,
        '<sheet name="Needs" sheetId="9" r:id="b"/><sheet name="Old" sheetId="1" r:id="a"/>',
      ),
      ".",
    );
    expect(found).toEqual({
      ok: true,
      table: { columns: ["item", "note"], rows: [{ line: 7, cells: ["12", "a\rb & c"] }] },
    });
  });
  it("is not led far out by a cell in the last column, nor by a column that is merged", async () => {
    const far = Array.from(
      { length: 2_000 },
      (_, i) => `<row r="${i + 2}"><c r="A${i + 2}"><v>1</v></c><c r="XFD${i + 2}"><v>1</v></c></row>`,
    );
    const head = '<row r="1"><c r="A1" t="inlineStr"><is><t>item</t></is></c></row>';
    const merged = '<mergeCells count="1"><mergeCell ref="A1:A1048576"/></mergeCells>';
    const found = await readAnyTable(sheet(head + far.join(""), undefined, merged), ".");
    expect(found).toMatchObject({ ok: true, table: { columns: ["item"], rows: { length: 2_000 } } });
    expect(await readAnyTable(sheet(far.join("")), ".")).toMatchObject({
      ok: false,
      faults: [{ says: expect.stringMatching(/more than 200 columns/) }],
    });
  });
  it("does not unpack what would fill the memory, whatever the archive claims", async () => {
    const claims = (size: number) => {
      const bytes = sheet(" ".repeat(20_000_000));
      const last = Buffer.from(bytes).lastIndexOf(Buffer.from([0x50, 0x4b, 1, 2]));
      new DataView(bytes.buffer, bytes.byteOffset).setUint32(last + 24, size, true);
      return readAnyTable(bytes, ".");
    };
    expect(await claims(0xffff_fff0)).toMatchObject({
      ok: false,
      faults: [{ says: expect.stringMatching(/far larger unpacked/) }],
    });
    expect(await claims(1_000)).toMatchObject({
      ok: false,
      faults: [{ says: expect.stringMatching(/not a workbook/) }],
    });
    const entities = '<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>';
    expect(await readAnyTable(sheet("<row><c><v>&b;</v></c></row>", undefined, "", entities), ".")).toMatchObject({
      ok: false,
      faults: [{ says: expect.stringMatching(/not a workbook/) }],
    });
  });
  it("leaves text files to the CSV reader", async () => {
    expect(await readAnyTable(Buffer.from("a,b\n1,2\n"), ".")).toMatchObject({
      ok: true,
      table: { columns: ["a", "b"] },
    });
  });
});
