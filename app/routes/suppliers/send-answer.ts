import { answerByProgram } from "../../../server/acts/suppliers/answer-by-file";
import { programAct } from "../../web/page";

/** An answer that another program sends as JSON: POST /answers. */
export const action = programAct("write orders", (desk, input) => answerByProgram(desk, input));
