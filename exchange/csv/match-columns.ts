import type { Table } from "./table";

/** Which column of a file holds which of our fields; an empty name for none. */
export type Mapping = Record<string, string>;

/** What people call our fields in their own spreadsheets, in the order in which a guess prefers them. */
const NAMES: Record<string, RegExp> = {
  item: /^(item|item ?(code|no|number)|code|part|part ?(no|number)|sku|gtin|ean|barcode|material|product)\.?$/,
  store: /^(store|store ?code|location|site|for store|deliver to)$/,
  quantity: /^(quantity|qty|amount|number|pieces|pcs|how many|needed)\.?$/,
  unit: /^(unit|uom|unit of measure|measure|per)$/,
  needed_by: /^(needed[ _]by|needed on|wanted by|required|required by|due|due date|date|by|when|deadline)$/,
  note: /^(note|notes|remark|remarks|comment|comments|reason|what for)$/,
};

const plain = (name: string) =>
  name
    .toLowerCase()
    .replace(/[_\s]+/g, " ")
    .trim();

/** Guesses by name; each column serves one field. */
export function guessColumns(columns: readonly string[]): Mapping {
  const taken = new Set<string>();
  const mapping: Mapping = {};
  for (const [field, names] of Object.entries(NAMES)) {
    const exact = columns.find((c) => plain(c) === plain(field));
    const found = exact ?? columns.find((c) => !taken.has(c) && names.test(plain(c)));
    mapping[field] = found && !taken.has(found) ? found : "";
    if (mapping[field]) taken.add(mapping[field]);
  }
  return mapping;
}

/** Rows that were pasted without a line of names: code, quantity, then a day, as far as they are there. */
export function withNames(table: Table): { table: Table; named: boolean } {
  const guess = guessColumns(table.columns);
  const number = /^-?\d+([.,]\d+)?$/;
  if ((guess.item && guess.quantity) || !table.columns.some((c) => number.test(c))) return { table, named: true };
  const width = table.rows.reduce((most, r) => Math.max(most, r.cells.length), table.columns.length);
  const usual = ["item", "quantity", "needed_by", "note"];
  return {
    table: {
      columns: Array.from({ length: width }, (_, i) => usual[i] ?? `column ${i + 1}`),
      rows: [{ line: 1, cells: table.columns }, ...table.rows],
    },
    named: false,
  };
}

/** The same rows under our own names; columns that serve no field are left out. */
export function renamed(table: Table, mapping: Mapping): Table {
  const chosen = Object.entries(mapping)
    .map(([field, name]) => ({ field, at: table.columns.indexOf(name) }))
    .filter((c) => c.at >= 0);
  return {
    columns: chosen.map((c) => c.field),
    rows: table.rows.map((r) => ({ line: r.line, cells: chosen.map((c) => r.cells[c.at] ?? "") })),
  };
}
