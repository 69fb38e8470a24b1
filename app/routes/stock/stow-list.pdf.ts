import { stowDocument } from "../../../server/queries/stock/stock-documents";
import { page } from "../../web/page";
import { workStore } from "../../web/work-store";
import { stockAnswer } from "./stock-pdf";

/** The stow list on paper. */
export const loader = page("see shelves", ({ db, person, day, url }) =>
  stockAnswer(db, stowDocument(db, workStore(db, person, url).store, person.name, day)),
);
