import { agreementPaper } from "../../../server/queries/consigned/papers";
import { idOf, page } from "../../web/page";
import { paperAnswer } from "./paper-answers";

/** An agreement as it holds, or as its draft stands. */
export const loader = page("see agreements", ({ db, params, day }) =>
  paperAnswer(db, agreementPaper(db, idOf(params.id), day)),
);
