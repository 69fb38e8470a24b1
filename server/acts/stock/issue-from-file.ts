import type { ItemId, JobId, StoreId } from "../../../core/ids";
import { clip } from "../../../core/numbers/decimal";
import { parseQuantity, quantityText } from "../../../core/numbers/quantity";
import { markOf, plainNumber } from "../../../exchange/csv/decimal-mark";
import { gtinForms } from "../../../exchange/gs1/scan";
import { isWorkbook, readAnyTable } from "../../../exchange/xlsx/read-workbook";
import { type Db, sql } from "../../db/open";
import { ripenTheirs } from "../consigned/ripen";
import { type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { ownStore } from "./bins";
import { IssueGoods, issueRows } from "./issue-goods";

/** So many rows a file of uses has. */
const MOST = 2_000;

/** What came of a file of uses: the papers that were written. */
export interface IssuedByFile {
  papers: string[];
  rows: number;
}

interface Use {
  line: number;
  store: StoreId;
  job: JobId | null;
  reason: string;
  item: ItemId;
  quantity: number;
}

/**
 * Issues what a file names, CSV or the first sheet of a workbook: columns store, item, quantity, and job or reason
 * (docs/exchange.md). One paper for each store and job, all of them or none; whose goods they are is as the agreements say.
 */
export async function issueFromFile(desk: Desk, bytes: Uint8Array): Promise<Done<IssuedByFile>> {
  const read = await readAnyTable(bytes, ".");
  if (!read.ok)
    return refuseAll(
      read.faults.slice(0, 20).map((f) => ({ field: "file", says: f.line > 1 ? `Line ${f.line}: ${f.says}` : f.says })),
    );
  const { table } = read;
  if (table.rows.length > MOST) return refuse("file", "A file of uses has at most 2,000 rows.");
  const at = new Map(table.columns.map((c, i) => [c.trim().toLowerCase(), i]));
  for (const name of ["store", "item", "quantity"])
    if (!at.has(name))
      return refuse("file", "Name the columns in the first line: store, item, quantity, and job or reason.");
  const cell = (cells: readonly string[], name: string) => (cells[at.get(name) ?? -1] ?? "").trim();
  const mark = isWorkbook(bytes) ? "." : (markOf(table.rows.map((r) => cell(r.cells, "quantity"))) ?? ".");
  ripenTheirs(desk);
  return once(desk, "move stock", (tx) => {
    const problems: Problem[] = [];
    const uses = table.rows.flatMap(({ line, cells }) => {
      const use = readUse(tx.db, line, (name) => cell(cells, name), mark);
      if (typeof use !== "string") return use;
      problems.push({ field: "file", says: `Line ${line}: ${use}` });
      return [];
    });
    if (problems.length) return refuseAll(problems.slice(0, 20));
    if (uses.length === 0) return refuse("file", "There is no row below the first line.");
    const papers: string[] = [];
    const trail: object[] = [];
    for (const group of grouped(uses)) {
      const [first] = group;
      const own = ownStore(desk, tx.db, first!.store);
      if (!own.ok) return own;
      const input = IssueGoods.safeParse({
        store: first!.store,
        job: first!.job,
        reason: first!.reason,
        rows: group.map((u) => ({ item: u.item, quantity: quantityText(u.quantity) })),
      });
      if (!input.success) return refuse("file", `Line ${first!.line}: ${input.error.issues[0]!.message}`);
      const issued = issueRows(tx.db, desk, input.data);
      if (!issued.ok)
        return refuseAll(
          issued.problems
            .slice(0, 20)
            .map((p) => ({ field: "file", says: `Line ${lineOf(group, p.field)}: ${p.says}` })),
        );
      papers.push(issued.value.number);
      trail.push(issued.value.trail);
    }
    tx.record("goods.issued-by-file", "file", { papers, issues: trail });
    return done({ papers, rows: uses.length });
  });
}

const lineOf = (group: readonly Use[], field: string): number =>
  group[Number(/^rows\.(\d+)\./.exec(field)?.[1] ?? 0)]!.line;

/** A row as it is meant; a sentence where it is not. */
function readUse(db: Db, line: number, cell: (name: string) => string, mark: "." | ","): Use | string {
  const quantity = parseQuantity(plainNumber(cell("quantity"), mark) ?? cell("quantity"));
  if (!quantity.ok) return `“${clip(cell("quantity"))}” is no quantity. ${quantity.says}`;
  const store = sql<{ id: StoreId }>(db, "SELECT id FROM store WHERE code = ?").get(cell("store"));
  if (!store) return `There is no store ${clip(cell("store"))}.`;
  const code = cell("item");
  const item =
    sql<{ id: ItemId }>(db, "SELECT id FROM item WHERE code = ?").get(code) ??
    (/^\d{8,14}$/.test(code)
      ? sql<{ id: ItemId }>(db, "SELECT id FROM item WHERE gtin IN (SELECT value FROM json_each(?))").get(
          JSON.stringify(gtinForms(code)),
        )
      : undefined);
  if (!item) return `There is no item ${clip(code)}.`;
  const named = cell("job");
  const job = named === "" ? null : sql<{ id: JobId }>(db, "SELECT id FROM job WHERE code = ?").get(named);
  if (job === undefined) return `There is no job ${clip(named)}.`;
  const reason = cell("reason").slice(0, 300);
  return { line, store: store.id, job: job?.id ?? null, reason, item: item.id, quantity: quantity.value };
}

/** Rows of one store and job, or reason, go onto one paper; those of one item are added up. */
function grouped(uses: readonly Use[]): Use[][] {
  const groups = new Map<string, Use[]>();
  for (const u of uses) {
    const key = `${u.store}/${u.job ?? u.reason}`;
    const of = groups.get(key) ?? [];
    const same = of.findIndex((x) => x.item === u.item);
    groups.set(key, same < 0 ? [...of, u] : of.with(same, { ...of[same]!, quantity: of[same]!.quantity + u.quantity }));
  }
  return [...groups.values()];
}
