import { readPool } from "../../../server/queries/needs/pool";
import { needQuery, planOf } from "../../../server/queries/needs/query";
import { page } from "../../web/page";

/** Which state of the file the plan is of, and how far the next one is: the page looks now and then. */
export const loader = page("see needs", ({ db, url, day, hour }) => {
  const { at, working, stopped } = readPool(db, planOf(needQuery(url.searchParams), day, hour));
  return Response.json({ at, working, stopped });
});
