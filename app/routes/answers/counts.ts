import { railCounts } from "../../../server/read/today/today";
import { page } from "../../web/page";

export const loader = page("keep own inbox", ({ db, person, day }) => Response.json(railCounts(db, person, day)));
