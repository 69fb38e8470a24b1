import { may } from "../../../core/people/roles";
import { returnDocument } from "../../../server/queries/receiving/goods-papers";
import { readReturn } from "../../../server/queries/receiving/set-aside";
import { idOf, notAllowed, notFound, page } from "../../web/page";
import { goodsAnswer } from "./goods-pdf";

/** The paper that goes back with goods, in the supplier's language. */
export const loader = page("see dock", ({ db, person, params }) => {
  const id = idOf(params.id);
  const row = readReturn(db, id);
  const document = returnDocument(db, id);
  if (!row || !document) throw notFound("There is no such return.");
  if (may(person.roles, "count in") && person.store !== null && row.store !== person.store)
    throw notAllowed("This return goes out of another store.");
  return goodsAnswer(db, document);
});
