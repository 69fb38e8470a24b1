import { keepRulesDraft } from "../../../server/acts/signoff/keep-rules";
import { kept } from "../../web/page";

/** The rules as they are written: kept while one types. */
export const action = kept("keep ladders", keepRulesDraft);
