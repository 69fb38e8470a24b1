import { readNeedRows } from "../../../server/read/needs/needs";
import { page } from "../../web/page";

export const loader = page("see needs", ({ db, day }) => Response.json(readNeedRows(db, day)));
