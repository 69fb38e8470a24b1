import { changeOrder } from "../../../server/desk/orders/change-order";
import { kept } from "../../web/page";

export const action = kept("write orders", (desk, input, { params }) =>
  changeOrder(desk, { ...input, order: params.id }),
);
