import { z } from "zod";
import { may } from "../../../core/people/roles";
import { PAPERS_TO_SIGN } from "../../../core/signoff/papers";
import { decisionAsAsked } from "../../../server/acts/signoff/decision-as-asked";
import { readRequisition } from "../../../server/queries/requisitions/requisition";
import { sightOf } from "../../../server/queries/requisitions/sight";
import { readSignings } from "../../../server/queries/signoff/signings";
import { idOf, notAllowed, notFound, page } from "../../web/page";

const PaperName = z.enum(PAPERS_TO_SIGN);

/** What an approver needs to decide on a paper. */
export const loader = page("see sign-offs", ({ db, params, person, day, hour }) => {
  const paper = PaperName.safeParse(params.paper);
  const id = idOf(params.id);
  const sheet = paper.data === "requisition" ? readRequisition(db, id) : null;
  if (sheet && sightOf(db, sheet, person, day) !== "whole") throw notAllowed("This requisition is somebody else’s.");
  if (paper.data === "order" && !may(person.roles, "write orders") && readSignings(db, "order", id).length === 0)
    throw notFound("There is no such paper.");
  if ((paper.data === "agreement" || paper.data === "invoice") && readSignings(db, paper.data, id).length === 0)
    throw notFound("There is no such paper.");
  const decision = paper.success ? decisionAsAsked(db, paper.data, id, day, hour) : null;
  if (!decision) throw notFound("There is no such paper.");
  return Response.json(decision);
});
