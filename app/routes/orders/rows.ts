import { ORDERS } from "../../../server/queries/orders/finder";
import { listRows } from "../../web/list";

export const loader = listRows(ORDERS);
