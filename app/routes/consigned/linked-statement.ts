import type { LoaderFunctionArgs } from "react-router";
import { selfBilledInvoiceXml } from "../../../exchange/ubl/self-billed-invoice";
import { statementCsv } from "../../../server/acts/consigned/statement";
import { agreementOfLink, wasSent } from "../../../server/queries/consigned/link";
import { selfBilled, statementPaper } from "../../../server/queries/consigned/papers";
import { house } from "../../web/house";
import { idOf, notFound } from "../../web/page";
import { paperAnswer, textFile } from "./paper-answers";

/** A use statement that was sent, for whoever holds the private link of its agreement. */
export async function loader({ params, context }: LoaderFunctionArgs): Promise<Response> {
  const { db } = context.get(house);
  const of = agreementOfLink(db, String(params.link).slice(0, 80));
  const id = idOf(params.id);
  const paper = statementPaper(db, id);
  if (typeof of !== "number" || !paper || !wasSent(db, id, of))
    throw notFound("This link does not lead to a statement of ours.");
  switch (params.file) {
    case "paper.pdf":
      return paperAnswer(db, paper);
    case "uses.csv":
      return textFile(statementCsv(paper), "text/csv", `statement-${paper.number}.csv`);
    case "invoice.xml":
      return textFile(selfBilledInvoiceXml(selfBilled(db, id)!), "application/xml", `statement-${paper.number}.xml`);
    default:
      throw notFound("There is no such file.");
  }
}
