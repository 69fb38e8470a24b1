import { saveRequisition } from "../../../server/acts/requisitions/raise-requisition";
import { kept } from "../../web/page";

export const action = kept("ask", (desk, input, { params }) =>
  saveRequisition(desk, { ...input, requisition: params.id }),
);
