import { supplierFileOf } from "../../../server/queries/kept-files";
import { idOf, page } from "../../web/page";
import { savedFile } from "../../web/saved-file";

/** A file of a supplier's record; always saved, never run or shown. */
export const loader = page("see suppliers", ({ db, params }) =>
  savedFile(supplierFileOf(db, idOf(params.id), idOf(params.file))),
);
