import { sql } from "../../../server/db/open";
import { idOf, page } from "../../web/page";
import { savedFile } from "../../web/saved-file";

/** A file of a supplier's record; always saved, never run or shown. */
export const loader = page("see suppliers", ({ db, params }) =>
  savedFile(
    sql<{ name: string; type: string; bytes: Buffer }>(
      db,
      "SELECT name, type, bytes FROM supplier_file WHERE id = ? AND supplier = ?",
    ).get(idOf(params.file), idOf(params.id)),
  ),
);
