import { rulesToFile } from "../../../exchange/rules/rules-file";
import { theCompany } from "../../../server/queries/company";
import { readRuleNames } from "../../../server/queries/signoff/rule-names";
import { readRulebooks, rulebookOn } from "../../../server/queries/signoff/rulebooks";
import { notFound, programPage } from "../../web/page";

/** The rules in force, or a version of them, as a file. */
export const loader = programPage("see ladders", ({ db, day, url }) => {
  const version = url.searchParams.get("version");
  const book = version ? readRulebooks(db).find((b) => String(b.version) === version) : rulebookOn(db, day);
  if (!book) throw notFound("There are no such rules.");
  const file = rulesToFile(book, readRuleNames(db), theCompany(db).currency);
  return Response.json(file, {
    headers: { "Content-Disposition": `attachment; filename="spend-ladders-${book.version}.json"` },
  });
});
