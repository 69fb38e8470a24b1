import { readSuppliersToAdd } from "../../../server/queries/records/item";
import { idOf, page } from "../../web/page";

export const loader = page("keep sourcing", ({ db, params }) => Response.json(readSuppliersToAdd(db, idOf(params.id))));
