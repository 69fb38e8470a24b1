import { receiveGoods } from "../../../server/acts/receiving/receive-goods";
import { idOf, kept } from "../../web/page";

/** The count of one order that is taken in: sent at once, or when the connection is back. */
export const action = kept("count in", (desk, input, { params }) =>
  receiveGoods(desk, { ...input, order: idOf(params.id) }),
);
