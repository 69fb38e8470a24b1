import type { StockDocument } from "../../../exchange/pdf/stock-paper";
import type { Db } from "../../../server/db/open";
import { drawStock } from "../../../server/jobs/papers/draw";
import { pdfAnswer } from "../../web/pdf-answer";

/** A paper of the stock, shown in the browser. */
export async function stockAnswer(db: Db, document: StockDocument): Promise<Response> {
  const pdf = await drawStock(db, document);
  const name = [document.kind, document.number].filter(Boolean).join("-").replaceAll(" ", "-");
  return pdfAnswer(name, pdf);
}
