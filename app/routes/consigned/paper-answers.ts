import type { ConsignedPaper } from "../../../exchange/pdf/consigned-paper";
import type { Db } from "../../../server/db/open";
import { drawConsigned } from "../../../server/jobs/papers/draw";
import { logoNow, readLogo } from "../../../server/queries/papers/templates";
import { notFound } from "../../web/page";
import { pdfAnswer } from "../../web/pdf-answer";

/** A paper about a supplier's goods, shown in the browser. */
export async function paperAnswer(db: Db, paper: ConsignedPaper | null): Promise<Response> {
  if (!paper) throw notFound("There is no such paper.");
  const pdf = await drawConsigned(paper, readLogo(db, logoNow(db)));
  const name = [paper.kind.replaceAll(" ", "-"), paper.number].filter(Boolean).join("-");
  return pdfAnswer(name, pdf);
}

/** A text that is saved as a file. */
export const textFile = (text: string, type: string, name: string): Response =>
  new Response(text, {
    headers: { "Content-Type": `${type}; charset=utf-8`, "Content-Disposition": `attachment; filename="${name}"` },
  });
