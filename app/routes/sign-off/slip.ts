import { z } from "zod";
import { readDecision } from "../../../server/read/signoff/decision";
import { idOf, notFound, page } from "../../web/page";

const PaperName = z.enum(["order", "requisition"]);

/** What an approver needs to decide on a paper. */
export const loader = page("see sign-offs", ({ db, params, day, hour }) => {
  const paper = PaperName.safeParse(params.paper);
  const decision = paper.success ? readDecision(db, paper.data, idOf(params.id), day, hour) : null;
  if (!decision) throw notFound("There is no such paper.");
  return Response.json(decision);
});
