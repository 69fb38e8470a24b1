import { readKnownAt } from "../../../server/queries/needs/round";
import { idOf, page } from "../../web/page";

export const loader = page("walk the floor", ({ db, url }) =>
  Response.json(readKnownAt(db, idOf(url.searchParams.get("store") ?? ""))),
);
