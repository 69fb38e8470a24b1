import { may } from "../../../core/people/roles";
import { readBatch } from "../../../server/queries/papers/batches";
import { idOf, notFound, page } from "../../web/page";

/** How far a batch is: its page looks now and then. */
export const loader = page("see orders", ({ db, params, person }) => {
  const batch = readBatch(db, idOf(params.id));
  if (!batch || (batch.person !== person.id && !may(person.roles, "see the trail")))
    throw notFound("There is no such batch.");
  return Response.json({ done: batch.done, refused: batch.refused, ended: batch.ended });
});
