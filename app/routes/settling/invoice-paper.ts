import { invoiceFileOf } from "../../../server/queries/kept-files";
import { idOf, page } from "../../web/page";
import { savedFile } from "../../web/saved-file";

/** A file that is kept with an invoice; always saved, never run or shown. */
export const loader = page("see invoices", ({ db, params }) =>
  savedFile(invoiceFileOf(db, idOf(params.id), idOf(params.file))),
);
