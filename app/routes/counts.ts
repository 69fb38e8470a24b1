import { railCounts } from "../../server/queries/today/today";
import { page } from "../web/page";

export const loader = page("keep own inbox", ({ db, person, day, hour }) =>
  Response.json(railCounts(db, person, day, hour)),
);
