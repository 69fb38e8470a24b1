import { bankFileOf } from "../../../server/jobs/hand-to-bank";
import { idOf, notFound, page } from "../../web/page";
import { textFile } from "../consigned/paper-answers";

/** A released pay list as ISO 20022 pain.001. */
export const loader = page("see payables", ({ db, params }) => {
  const file = bankFileOf(db, idOf(params.id));
  if (!file) throw notFound("There is no such file: a pay list is released before the bank has it.");
  return textFile(file.xml, "application/xml", `${file.number}.xml`);
});
