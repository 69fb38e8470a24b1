import { describe, expect, it } from "vitest";
import { guessColumns, renamed, withNames } from "./match-columns";

const table = (columns: string[], ...rows: string[][]) => ({
  columns,
  rows: rows.map((cells, i) => ({ line: i + 2, cells })),
});

describe("columns of somebody else's spreadsheet", () => {
  it("are matched by what people call them, each once", () => {
    expect(guessColumns(["part number", "qty", "required by", "uom", "remarks", "colour"])).toEqual({
      item: "part number",
      store: "",
      quantity: "qty",
      unit: "uom",
      needed_by: "required by",
      note: "remarks",
    });
    expect(guessColumns(["code", "item", "quantity"]).item).toBe("item");
  });
  it("are named by their order where nothing names them", () => {
    const read = withNames(table(["oil-46", "4"], ["ano-11", "2,5"]));
    expect(read).toMatchObject({ named: false, table: { columns: ["item", "quantity"] } });
    expect(read.table.rows.map((r) => [r.line, ...r.cells])).toEqual([
      [1, "oil-46", "4"],
      [2, "ano-11", "2,5"],
    ]);
    expect(withNames(table(["item", "quantity"], ["A", "1"])).named).toBe(true);
  });
  it("take our names, and the others are left out", () => {
    expect(renamed(table(["a", "b", "c"], ["1", "2", "3"]), { item: "c", quantity: "a", store: "" })).toEqual({
      columns: ["item", "quantity"],
      rows: [{ line: 2, cells: ["3", "1"] }],
    });
  });
});

it("very many pasted rows without names are named like few", () => {
  const rows = Array.from({ length: 150_000 }, (_, i) => ({ line: i + 2, cells: ["OIL", "5"] }));
  const { table, named } = withNames({ columns: ["ROP", "3"], rows });
  expect([named, table.columns, table.rows.length]).toEqual([false, ["item", "quantity"], 150_001]);
});
