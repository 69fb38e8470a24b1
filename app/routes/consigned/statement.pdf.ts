import { statementPaper } from "../../../server/queries/consigned/papers";
import { idOf, page } from "../../web/page";
import { paperAnswer } from "./paper-answers";

/** A use statement on paper. */
export const loader = page("see agreements", ({ db, params }) => paperAnswer(db, statementPaper(db, idOf(params.id))));
