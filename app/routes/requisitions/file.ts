import { requisitionFileOf } from "../../../server/queries/kept-files";
import { readRequisition } from "../../../server/queries/requisitions/requisition";
import { sightOf } from "../../../server/queries/requisitions/sight";
import { idOf, notAllowed, notFound, page } from "../../web/page";
import { savedFile } from "../../web/saved-file";

/** A file of a requisition, for whoever may open the requisition; always saved, never run or shown. */
export const loader = page("keep own inbox", ({ db, params, person, day }) => {
  const id = idOf(params.id);
  const sheet = readRequisition(db, id);
  const file = requisitionFileOf(db, id, idOf(params.file));
  if (!sheet || !file) throw notFound("There is no such file.");
  if (sightOf(db, sheet, person, day) === null) throw notAllowed("This requisition is somebody else’s.");
  return savedFile(file);
});
