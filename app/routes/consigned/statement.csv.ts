import { statementCsv } from "../../../server/acts/consigned/statement";
import { statementPaper } from "../../../server/queries/consigned/papers";
import { idOf, notFound, page } from "../../web/page";
import { textFile } from "./paper-answers";

/** The uses of a statement as a file. */
export const loader = page("see agreements", ({ db, params }) => {
  const paper = statementPaper(db, idOf(params.id));
  if (!paper) throw notFound("There is no such statement.");
  return textFile(statementCsv(paper), "text/csv", `statement-${paper.number}.csv`);
});
