import { importRules } from "../../../server/acts/signoff/import-rules";
import { dropRulesDraft, startRules, takeBackRules } from "../../../server/acts/signoff/keep-rules";
import type { PageActs } from "../../web/page";
import { Upload } from "../../web/sent";

/** What is done to the rules as a whole. */
export const rulesActs = {
  start: startRules,
  drop: dropRulesDraft,
  "take back": takeBackRules,
  import: (desk, { file }) => importRules(desk, file instanceof Upload ? file.bytes : new Uint8Array()),
} satisfies PageActs;
export type RulesWord = keyof typeof rulesActs;
