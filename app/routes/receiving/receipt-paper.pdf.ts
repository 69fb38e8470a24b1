import { receiptDocument } from "../../../server/queries/receiving/goods-papers";
import { idOf, notFound, page } from "../../web/page";
import { goodsAnswer } from "./goods-pdf";
import { mayOpenReceipt } from "./may-open";

/** A receipt on paper. */
export const loader = page("keep own inbox", ({ db, person, params }) => {
  const id = idOf(params.id);
  const document = receiptDocument(db, id);
  if (!document) throw notFound("There is no such receipt.");
  mayOpenReceipt(db, person, id);
  return goodsAnswer(db, document);
});
