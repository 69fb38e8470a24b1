import { RulesFile, rulesFromFile } from "../../../exchange/rules/rules-file";
import { theCompany } from "../../queries/company";
import { readRuleNames } from "../../queries/signoff/rule-names";
import { readRulebookDraft } from "../../queries/signoff/rulebooks";
import { type Desk, type Done, refuse } from "../desk";
import { keepRulesDraft } from "./keep-rules";

const MOST_BYTES = 2_000_000;

/** Takes rules from a file as the draft that is being written; nothing goes by them until they are started. */
export function importRules(desk: Desk, bytes: Uint8Array): Done<{ version: number }> {
  if (bytes.length === 0) return refuse("file", "Choose a file.");
  if (bytes.length > MOST_BYTES) return refuse("file", "Such a file has at most 2 MB.");
  let json: unknown;
  try {
    json = JSON.parse(Buffer.from(bytes).toString("utf8"));
  } catch {
    return refuse("file", "This is no JSON file.");
  }
  const read = RulesFile.safeParse(json);
  if (!read.success) {
    const [issue] = read.error.issues;
    return refuse("file", `This is no file of rules: ${issue!.path.join(".") || "the whole"}, ${issue!.message}.`);
  }
  const { currency } = theCompany(desk.db);
  if (read.data.currency !== currency)
    return refuse("file", `Its amounts are in ${read.data.currency}, and ours in ${currency}.`);
  const rules = rulesFromFile(read.data, readRuleNames(desk.db));
  if (!rules.ok) return refuse("file", rules.says.slice(0, 5).join(" "));
  return keepRulesDraft(desk, { version: readRulebookDraft(desk.db)?.version ?? 0, rules: rules.rules });
}
