import { rulesSchema } from "../../../exchange/rules/rules-file";
import { programPage } from "../../web/page";

/** The JSON Schema of a file of rules. */
export const loader = programPage("keep own inbox", () => Response.json(rulesSchema()));
