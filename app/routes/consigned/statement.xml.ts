import { selfBilledInvoiceXml } from "../../../exchange/ubl/self-billed-invoice";
import { selfBilled } from "../../../server/queries/consigned/papers";
import { idOf, notFound, page } from "../../web/page";
import { textFile } from "./paper-answers";

/** A use statement as UBL 2.1 SelfBilledInvoice. */
export const loader = page("see agreements", ({ db, params }) => {
  const invoice = selfBilled(db, idOf(params.id));
  if (!invoice) throw notFound("There is no such statement.");
  return textFile(selfBilledInvoiceXml(invoice), "application/xml", `statement-${invoice.statement.number}.xml`);
});
