import { stockDocument } from "../../../server/queries/stock/stock-documents";
import { readStockPaper } from "../../../server/queries/stock/stock-papers";
import { idOf, notFound, page } from "../../web/page";
import { mayOpenPaper } from "./may-open";
import { stockAnswer } from "./stock-pdf";

/** A paper of the stock on paper. */
export const loader = page("see shelves", ({ db, person, params }) => {
  const found = readStockPaper(db, idOf(params.id));
  if (found) mayOpenPaper(person, found.head);
  const document = stockDocument(db, idOf(params.id));
  if (!document) throw notFound("There is no such paper.");
  return stockAnswer(db, document);
});
