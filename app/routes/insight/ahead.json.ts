import { may } from "../../../core/people/roles";
import { aheadAsked, readStillToCome } from "../../../server/queries/insight/ahead";
import { aheadFile } from "../../../server/queries/insight/ahead-file";
import { usualPlan } from "../../../server/queries/needs/need";
import { programPage } from "../../web/page";

/** The same as JSON. */
export const loader = programPage("see insight", ({ db, url, day, hour, person }) => {
  const pays = may(person.roles, "see payables");
  const ahead = readStillToCome(db, aheadAsked(url.searchParams), usualPlan(day, hour), pays);
  return Response.json({ on: day, by: ahead.by, rows: aheadFile(db, ahead, pays).json() });
});
