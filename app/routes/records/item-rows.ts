import { ITEMS } from "../../../server/queries/records/items";
import { listRows } from "../../web/list";

export const loader = listRows(ITEMS);
