import { needQuery, planOf } from "../../../server/queries/needs/query";
import { readNeedSlip } from "../../../server/queries/needs/slip";
import { notFound, page } from "../../web/page";

export const loader = page("see needs", ({ db, url, day, hour, person }) => {
  const plan = planOf(needQuery(url.searchParams), day, hour);
  const slip = readNeedSlip(db, plan, (url.searchParams.get("key") ?? "").slice(0, 60), person.id);
  if (!slip) throw notFound("This need is gone.");
  return Response.json(slip);
});
