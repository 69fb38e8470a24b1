import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { asText } from "./not-formula";
import { type Column, checkTable, readTable } from "./table";

const read = (text: string | Uint8Array) => readTable(typeof text === "string" ? Buffer.from(text) : text);
const table = (text: string) => {
  const found = read(text);
  if (!found.ok) throw new Error(found.faults[0]!.says);
  return found.table;
};
const says = (text: string | Uint8Array) => {
  const found = read(text);
  return found.ok ? [] : found.faults.map((f) => `${f.line}: ${f.says}`);
};

describe("a CSV file", () => {
  it("is read whatever separates it, with and without a byte order mark, and keeps its lines", () => {
    const rows = [{ line: 2, cells: ["OIL", "1,5"] }];
    for (const text of [
      'item,quantity\nOIL,"1,5"\n',
      "\ufeffitem;quantity\r\nOIL;1,5\r\n",
      "Item\t QUANTITY \nOIL\t1,5",
    ])
      expect(table(text)).toEqual({ columns: ["item", "quantity"], rows });
    expect(table('item,note\nOIL,"two\nlines"\n\nANO,one\n').rows.map((r) => [r.line, r.cells[1]])).toEqual([
      [2, "two\nlines"],
      [5, "one"],
    ]);
  });

  it("that cannot be read says so, and from which line on", () => {
    expect(says("")).toEqual(["1: The file is empty."]);
    expect(says("\n\n")).toEqual(["1: The file is empty."]);
    expect(says(Buffer.from("item\nOIL\n", "utf16le"))).toEqual(["1: There is a NUL here: this is not a text file."]);
    expect(says(Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from("item", "utf16le")]))).toEqual([
      "1: The file is written in UTF-16. Save it as CSV in UTF-8.",
    ]);
    expect(says(Buffer.from("item\nOIL\nF\xe4hre\n", "latin1"))).toEqual([
      "3: The file is not written in UTF-8, from line 3 on. Save it as CSV in UTF-8.",
    ]);
    expect(says("item\u0000quantity\n")).toEqual(["1: There is a NUL here: this is not a text file."]);
    expect(says('item,note\nOIL,a\nANO,"open\n')[0]).toMatch(/quotation marks do not match up/);
    expect(says("item,note\nOIL\nANO,b,c\n")).toEqual([
      "2: This row has 1 field, the first line has 2.",
      "3: This row has 3 fields, the first line has 2.",
    ]);
    expect(says(new Uint8Array(20 * 1024 * 1024 + 1))).toEqual(["1: The file is larger than 20 MB. Split it."]);
    expect(says(`item\n${"A\n".repeat(200_001)}`)).toEqual(["1: The file has more than 200,000 rows. Split it."]);
  });

  it("gives back what a spreadsheet wrote, whatever stands in the cells", () => {
    const cell = fc
      .string({ unit: "grapheme", maxLength: 12 })
      .map((s) => s.replaceAll("\u0000", "").trim())
      // A mark that a file was given against formulas is taken off again: not-formula.test.ts.
      .filter((s) => asText(s) === s);
    const quoted = (s: string) => `"${s.replaceAll('"', '""')}"`;
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 8 }), (cells) => {
        const text = `a,b\n${cells.map((r) => r.map(quoted).join(",")).join("\n")}\n`;
        expect(table(text).rows.map((r) => r.cells)).toEqual(cells);
      }),
    );
  });
});

describe("what programs write around a table", () => {
  const lines = (text: string) => table(text).rows.map((r) => [r.line, ...r.cells]);

  it("is understood: mixed line ends, and a line that says how fields are separated", () => {
    expect(lines('a,b\r\n1,2\n3,4\r5,"x\r\ny"\r\n6,7')).toEqual([
      [2, "1", "2"],
      [3, "3", "4"],
      [4, "5", "x\ny"],
      [6, "6", "7"],
    ]);
    expect(lines("sep=;\r\na;b\r\n1,5;2\r\n")).toEqual([[3, "1,5", "2"]]);
    expect(lines('\uFEFF"sep=|"\na|b\n1|2\n')).toEqual([[3, "1", "2"]]);
  });

  it.each([
    [`a,b\n1,2\n${",".repeat(300_000)}\n`, 3, /far too long/],
    [`a,b\n1,"2\n${"3,4\n".repeat(80_000)}`, 50_002, /opened before this line and not closed/],
    [`${"a,".repeat(300)}b\n1\n`, 1, /more than 200 columns/],
    ["a,b\n1,2\n\n3,\u0000\n", 4, /NUL/],
  ])("is refused where it cannot be a table, at its line (%#)", (text, line, says) => {
    expect(readTable(Buffer.from(text))).toMatchObject({
      ok: false,
      faults: [{ line, says: expect.stringMatching(says) }],
    });
  });
});

describe("the columns of a file", () => {
  const columns: Column[] = [
    { name: "item", required: true, hint: "item code", read: (cell) => ({ ok: true, value: cell.toUpperCase() }) },
    {
      name: "count",
      required: false,
      empty: 7,
      hint: "how many",
      read: (cell) => (/^\d+$/.test(cell) ? { ok: true, value: Number(cell) } : { ok: false, says: "Write a number." }),
    },
  ];
  const check = (text: string) => checkTable(table(text), columns, ".");

  it("are checked cell by cell: every fault is named, and sound rows stay", () => {
    const answer = check("count,item\n3,oil\nmany,ano\n,\n,rop\n");
    if (!answer.ok) throw new Error("the columns are right");
    expect(answer.given).toEqual(new Set(["count", "item"]));
    expect(answer.rows.map((r) => r.text("item"))).toEqual(["oil", "rop"]);
    expect(answer).toMatchObject({
      rows: [
        { line: 2, values: { item: "OIL", count: 3 } },
        { line: 5, values: { item: "ROP", count: 7 } },
      ],
      faults: [
        { line: 3, column: "count", found: "many", says: "Write a number." },
        { line: 4, column: "item", found: "", says: "Must be filled in: item code." },
      ],
    });
  });

  it("must be there, be known, and stand once", () => {
    const faults = check("count,colour,count\n1,red,2\n");
    expect(faults.ok ? [] : faults.faults.map((f) => `${f.column}: ${f.says}`)).toEqual([
      "item: The column “item” is missing.",
      "count: This column stands twice in the first line.",
      "colour: There is no such column. Use item, count.",
    ]);
  });
});
