import { type Db, sql } from "../../db/open";
import {
  askedCommitments,
  billedCommitments,
  budgetRules,
  type LineCommitments,
  orderCommitments,
} from "../../queries/budgets/commitments";

/**
 * Works out again what the lines that an act touched take of their budgets: the file notes which, whoever writes
 * (`budget_touch`). Every act ends with it, inside its transaction.
 */
export function keepCommitments(db: Db): void {
  const touched = sql<{ what: "o" | "r" | "i" | "all"; line: number }>(db, "SELECT what, line FROM budget_touch").all();
  if (touched.length === 0) return;
  const all = touched.some((t) => t.what === "all");
  const lines = (what: "o" | "r" | "i") => (all ? null : touched.filter((t) => t.what === what).map((t) => t.line));
  if (all) sql(db, "DELETE FROM commitment").run();
  const rules = budgetRules(db);
  const orders = lines("o");
  if (orders?.length !== 0) keep(db, "order_line", orders, orderCommitments(db, rules, orders));
  const asked = lines("r");
  if (asked?.length !== 0) keep(db, "requisition_line", asked, askedCommitments(db, rules, asked));
  const billed = lines("i");
  if (billed?.length !== 0) keep(db, "invoice_line", billed, billedCommitments(db, rules, billed));
  sql(db, "DELETE FROM budget_touch").run();
}

function keep(
  db: Db,
  column: "order_line" | "requisition_line" | "invoice_line",
  lines: readonly number[] | null,
  found: readonly LineCommitments[],
): void {
  if (lines)
    sql(db, `DELETE FROM commitment WHERE ${column} IN (SELECT value FROM json_each(?))`).run(JSON.stringify(lines));
  const add = sql(db, `INSERT INTO commitment (budget, figure, minor, ${column}) VALUES (?, ?, ?, ?)`);
  for (const { line, commitments } of found) for (const c of commitments) add.run(c.budget, c.figure, c.minor, line);
}
