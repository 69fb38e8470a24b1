import { csvRecords } from "../../exchange/csv/write";

const PART = 1_000;

/** Records as a file for other programs, part by part, so that a large one holds up nobody. */
export async function* recordsFile<T, C extends string>(
  rows: readonly T[],
  columns: readonly C[],
  record: (row: T) => Record<C, string>,
  kind: "csv" | "json",
): AsyncGenerator<string> {
  if (kind === "csv") yield `${columns.join(",")}\n`;
  for (let i = 0; i < rows.length || (i === 0 && kind === "json"); i += PART) {
    const part = rows.slice(i, i + PART).map(record);
    if (kind === "csv") yield csvRecords(part, columns, false);
    else {
      const text = part.map((r) => JSON.stringify(r)).join(",\n");
      yield `${i === 0 ? "[\n" : ""}${text}${i + PART < rows.length ? ",\n" : "\n]\n"}`;
    }
    await new Promise((done) => setImmediate(done));
  }
}
