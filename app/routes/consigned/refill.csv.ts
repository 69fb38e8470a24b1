import { refillCsv } from "../../../server/acts/consigned/refill";
import { refillPaper } from "../../../server/queries/consigned/papers";
import { idOf, notFound, page } from "../../web/page";
import { textFile } from "./paper-answers";

/** A refill as a file. It holds no price. */
export const loader = page("see consigned", ({ db, params }) => {
  const paper = refillPaper(db, idOf(params.id));
  if (!paper) throw notFound("There is no such refill.");
  return textFile(refillCsv(paper), "text/csv", `refill-${paper.number}.csv`);
});
