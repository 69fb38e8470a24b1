import { sql } from "../../../server/db/open";
import { readRequisition } from "../../../server/read/requisitions/requisition";
import { sightOf } from "../../../server/read/requisitions/sight";
import { idOf, notAllowed, notFound, page } from "../../web/page";
import { savedFile } from "../../web/saved-file";

/** A file of a requisition, for whoever may open the requisition; always saved, never run or shown. */
export const loader = page("keep own inbox", ({ db, params, person, day }) => {
  const id = idOf(params.id);
  const sheet = readRequisition(db, id);
  const file = sql<{ name: string; type: string; bytes: Buffer }>(
    db,
    "SELECT name, type, bytes FROM attachment WHERE id = ? AND requisition = ?",
  ).get(idOf(params.file), id);
  if (!sheet || !file) throw notFound("There is no such file.");
  if (sightOf(db, sheet, person, day) === null) throw notAllowed("This requisition is somebody else’s.");
  return savedFile(file);
});
