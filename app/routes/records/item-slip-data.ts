import { may } from "../../../core/people/roles";
import { readItemSlip } from "../../../server/queries/records/items";
import { idOf, page } from "../../web/page";

export const loader = page("see items", ({ db, url, day, person }) =>
  Response.json(readItemSlip(db, idOf(url.searchParams.get("id") ?? ""), day, may(person.roles, "see prices"))),
);
