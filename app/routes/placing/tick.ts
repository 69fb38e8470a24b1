import { readPlans } from "../../../server/jobs/placing/plans";
import { readBenchHead } from "../../../server/queries/placing/bench";
import { idOf, notFound, page } from "../../web/page";

/** Whether somebody changed the bench, and how far its plans are: the page looks now and then. */
export const loader = page("see benches", ({ db, params, url }) => {
  const head = readBenchHead(db, idOf(params.id));
  if (!head) throw notFound("There is no such bench.");
  return Response.json({
    version: head.version,
    cleared: head.cleared !== null,
    plans: readPlans((url.searchParams.get("mark") ?? "").slice(0, 40)),
  });
});
