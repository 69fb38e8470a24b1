import type { Posting } from "../../../core/stock/posting";
import { type Db, sql } from "../../db/open";

/** Both sides of an entry, in their order. */
export const postingsOf = (db: Db, entry: number): Posting[] =>
  sql<Posting>(
    db,
    "SELECT role, account, minor, order_line AS line FROM posting WHERE entry = ? ORDER BY position",
  ).all(entry);
