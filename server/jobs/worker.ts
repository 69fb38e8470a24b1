import Database from "better-sqlite3";
import type { Day } from "../../core/calendar/day";
import { leftOut } from "../../core/placing/hinder";
import { loadTable, lookAt, tableToLoad } from "../acts/files/load-file";
import { linesFromFile } from "../acts/orders/lines-from-file";
import { enterInvoiceRows, readInvoiceTable } from "../acts/settling/invoices-from-table";
import { followChain } from "../db/audit";
import { type Db, openBeside } from "../db/open";
import { theCompany } from "../queries/company";
import { csvParts, type FileColumn, workbookParts } from "../queries/file-columns";
import { breakdownColumns, cellsOf, readBreakdown } from "../queries/insight/breakdown";
import type { List } from "../queries/list";
import { LISTS, type ListName } from "../queries/lists";
import { clockOf } from "../queries/needs/clock";
import { planStock } from "../queries/needs/plan";
import { readReview } from "../queries/needs/review";
import { lineColumns } from "../queries/orders/export";
import { readOrder } from "../queries/orders/order";
import { PRICE_COLUMNS, priceRows } from "../queries/records/price-list";
import { savedParts } from "../queries/records/save-file";
import { journalLines } from "../queries/settling/books";
import { auditFile, journalColumns } from "../queries/settling/journal-file";
import { OVERDUE_COLUMNS, readOverdue } from "../queries/suppliers/overdue";
import type { JobName, Jobs, Said, Task } from "./jobs";
import { findHindrances, solve } from "./placing/solve";
import { tryRules } from "./signoff/try-rules";

const PART = 500;

/** Writes to the file beside the server, in one transaction; other writes wait for it. */
function writing<T>(file: string, write: (db: Db) => T): T {
  const db = openBeside(file);
  try {
    return write(db);
  } finally {
    db.close();
  }
}

type Say<J extends JobName> = (said: Said<J>) => void;
/** Reads the file as it was at one moment, whatever is written meanwhile. */
function reading<T>(file: string, read: (db: Db) => T): T {
  const db = new Database(file, { readonly: true });
  try {
    return db.transaction(() => read(db))();
  } finally {
    db.close();
  }
}

/** The same for what takes its time between one row and the next. */
async function readingLong(file: string, read: (db: Db) => void | Promise<void>): Promise<undefined> {
  const db = new Database(file, { readonly: true });
  try {
    db.exec("BEGIN");
    await read(db);
  } finally {
    db.close();
  }
  return undefined;
}

type Rows = <R>(
  title: string,
  columns: readonly FileColumn<R>[],
  parts: Iterable<readonly R[]>,
) => void | Promise<void>;
/** What of a list an address finds. */
function listed<N extends ListName>(
  db: Db,
  { list, search, today }: { list: N; search: string; today: Day },
  rows: Rows,
) {
  const { file, parts, name } = LISTS[list] as List<never, never, never, object>; // of one list its own rows and columns
  return rows(name, file(db), parts(db, new URLSearchParams(search), today));
}

function inParts<T>(all: readonly T[], say: (part: T[]) => void): void {
  for (let i = 0; i < all.length; i += PART) say(all.slice(i, i + PART));
}

type Output<J extends JobName> = Jobs[J]["output"] | Promise<Jobs[J]["output"]>;
const JOBS: { [J in JobName]: (input: Jobs[J]["input"], say: Say<J>) => Output<J> } = {
  place: async ({ problem, measures, seconds }, say) => {
    const solved = await solve(problem, measures, {
      seconds,
      onStanding: (standing) => say({ part: { standing } }),
      onBetter: (placing) => say({ part: { placing } }),
    });
    const kept = leftOut(problem).length + Object.keys(solved?.placing ?? {}).length;
    return { solved, hindrances: kept < problem.rows.length ? await findHindrances(problem) : [] };
  },
  paper: async ({ document, logo }) => {
    // What draws papers takes a second to load, and the other jobs do not need it.
    const { orderPdf } = await import("../../exchange/pdf/order-pdf");
    return { pdf: await orderPdf(document, logo) };
  },
  goods: async ({ document, logo }) => {
    const { goodsPdf } = await import("../../exchange/pdf/goods-paper");
    return { pdf: await goodsPdf(document, logo) };
  },
  stock: async ({ document, logo }) => {
    const { stockPdf } = await import("../../exchange/pdf/stock-paper");
    return { pdf: await stockPdf(document, logo) };
  },
  report: async ({ document, logo }) => {
    const { reportPdf } = await import("../../exchange/pdf/report-paper");
    return { pdf: await reportPdf(document, logo) };
  },
  consigned: async ({ document, logo }) => {
    const { consignedPdf } = await import("../../exchange/pdf/consigned-paper");
    return { pdf: await consignedPdf(document, logo) };
  },
  labels: async ({ run }, say) => {
    const { labelsPdf } = await import("../../exchange/labels/label-pdf");
    let said = 0;
    return labelsPdf(run, (done) => {
      if (done - said < 100) return;
      said = done;
      say({ part: { done } });
    });
  },
  look: ({ bytes, mark, rows }) => lookAt(bytes, mark, rows),
  lines: ({ bytes, how }) => linesFromFile(bytes, how),
  load: async ({ file, by, kind, bytes, how }, say) => {
    const read = await tableToLoad(bytes, how);
    if (!read.ok) return read;
    const { table, mark } = read;
    const of = table.rows.length;
    say({ part: { done: 0, of } });
    return writing(file, (db) =>
      loadTable({ ...by, db }, kind, table, mark, how.only, (done) => say({ part: { done, of } })),
    );
  },
  invoices: async ({ file, by, bytes }, say) => {
    const read = await readInvoiceTable(bytes);
    if (!read.ok) return read;
    const of = read.value.length;
    return writing(file, (db) => enterInvoiceRows({ ...by, db }, read.value, (done) => say({ part: { done, of } })));
  },
  save: ({ file, what }, say) =>
    readingLong(file, async (db) => {
      const part = (bytes: Uint8Array) => say({ part: bytes });
      const text = (parts: Iterable<string>) => {
        for (const p of parts) part(Buffer.from(p));
      };
      if ("kind" in what) return text(savedParts(db, what.kind));
      if ("journal" in what)
        return text(
          what.as === "xml"
            ? auditFile(db, what.journal)
            : csvParts(
                journalColumns(theCompany(db).currency),
                journalLines(db, what.journal.from, what.journal.until),
              ),
        );
      const rows = <R>(title: string, columns: readonly FileColumn<R>[], parts: Iterable<readonly R[]>) =>
        what.as === "csv" ? text(csvParts(columns, parts)) : workbookParts(title, columns, parts, part);
      if ("pricesOf" in what) return rows("prices", PRICE_COLUMNS, [priceRows(db, what.pricesOf)]);
      if ("breakdown" in what)
        return rows("breakdown", breakdownColumns(db, what.breakdown), [cellsOf(readBreakdown(db, what.breakdown))]);
      if ("overdue" in what) return rows("overdue", OVERDUE_COLUMNS, [readOverdue(db, what.overdue)]);
      if ("list" in what) return listed(db, what, rows);
      const sheet = readOrder(db, what.linesOf);
      return sheet ? rows(sheet.head.name, lineColumns(sheet), [sheet.lines]) : undefined;
    }),
  trail: ({ file, from }) => reading(file, (db) => followChain(db, from)),
  plan: ({ file, plan }, say) =>
    reading(file, (db) => {
      const at = clockOf(db);
      let pairs = 0;
      const needs = planStock(db, plan, (done) => {
        pairs = done;
        say({ done });
      });
      inParts(needs, (part) => say({ part }));
      return { at, pairs };
    }),
  trial: ({ file, rules, today }, say) =>
    reading(file, (db) => tryRules(db, rules, today, (done, all) => say({ part: { done, all } }))),
  review: ({ file, today }, say) =>
    reading(file, (db) => {
      const rows = readReview(db, today, (done) => say({ done }));
      inParts(rows, (part) => say({ part }));
      return { pairs: rows.length };
    }),
};

/** Entry of a worker thread. */
export default function work<J extends JobName>({ job, input, port }: Task<J>): Output<J> {
  return JOBS[job](input, (said) => port.postMessage(said));
}
