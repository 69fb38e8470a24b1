import { orderFileOf } from "../../../server/queries/kept-files";
import { idOf, page } from "../../web/page";
import { savedFile } from "../../web/saved-file";

/** A file of an order; always saved, never run or shown. */
export const loader = page("see orders", ({ db, params }) =>
  savedFile(orderFileOf(db, idOf(params.id), idOf(params.file))),
);
