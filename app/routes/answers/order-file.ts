import { sql } from "../../../server/db/open";
import { idOf, page } from "../../web/page";
import { savedFile } from "../../web/saved-file";

/** A file of an order; always saved, never run or shown. */
export const loader = page("see orders", ({ db, params }) =>
  savedFile(
    sql<{ name: string; type: string; bytes: Buffer }>(
      db,
      "SELECT name, type, bytes FROM order_file WHERE id = ? AND purchase_order = ?",
    ).get(idOf(params.file), idOf(params.id)),
  ),
);
