import { readOrderLook } from "../../../server/queries/orders/look";
import { idOf, page } from "../../web/page";

/** An order at a glance, for the slip beside a list. */
export const loader = page("see orders", ({ db, params, day }) =>
  Response.json(readOrderLook(db, idOf(params.id), day)),
);
