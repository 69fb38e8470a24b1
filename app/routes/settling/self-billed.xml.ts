import { selfBilledInvoiceXml } from "../../../exchange/ubl/self-billed-invoice";
import { selfBilledInvoice } from "../../../server/queries/settling/self-billed";
import { idOf, notFound, page } from "../../web/page";
import { textFile } from "../consigned/paper-answers";

/** An invoice that we wrote for its supplier, as UBL 2.1 SelfBilledInvoice. */
export const loader = page("see invoices", ({ db, params }) => {
  const invoice = selfBilledInvoice(db, idOf(params.id));
  if (!invoice) throw notFound("This invoice was not written by us.");
  return textFile(selfBilledInvoiceXml(invoice), "application/xml", `${invoice.statement.number}.xml`);
});
