import { receiptAdviceXml } from "../../../exchange/ubl/receipt-advice";
import { receiptAdvice } from "../../../server/queries/receiving/goods-papers";
import { idOf, notFound, page } from "../../web/page";
import { mayOpenReceipt } from "./may-open";

/** A receipt as its supplier's system reads it. */
export const loader = page("keep own inbox", ({ db, person, params }) => {
  const id = idOf(params.id);
  const advice = receiptAdvice(db, id);
  if (!advice) throw notFound("There is no such receipt.");
  mayOpenReceipt(db, person, id);
  return new Response(receiptAdviceXml(advice), {
    headers: {
      "Content-Type": "application/xml; charset=utf-8",
      "Content-Disposition": `attachment; filename="receipt-${advice.number}.xml"`,
    },
  });
});
