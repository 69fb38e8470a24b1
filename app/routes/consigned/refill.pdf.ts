import { refillPaper } from "../../../server/queries/consigned/papers";
import { idOf, page } from "../../web/page";
import { paperAnswer } from "./paper-answers";

/** A refill as it was asked for. It holds no price. */
export const loader = page("see consigned", ({ db, params }) => paperAnswer(db, refillPaper(db, idOf(params.id))));
