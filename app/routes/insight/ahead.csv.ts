import { may } from "../../../core/people/roles";
import { aheadAsked, readStillToCome } from "../../../server/queries/insight/ahead";
import { aheadFile } from "../../../server/queries/insight/ahead-file";
import { usualPlan } from "../../../server/queries/needs/need";
import { programPage } from "../../web/page";
import { saving } from "../../web/saved-files";

/** What is still to come as its address asks for it (docs/exchange.md). */
export const loader = programPage("see insight", ({ db, url, day, hour, person }) => {
  const pays = may(person.roles, "see payables");
  const ahead = readStillToCome(db, aheadAsked(url.searchParams), usualPlan(day, hour), pays);
  return saving("ahead", "csv", aheadFile(db, ahead, pays).csv());
});
