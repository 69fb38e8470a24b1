import { chooseOnBench } from "../../../server/acts/placing/choose";
import { idOf, kept } from "../../web/page";

/** Keeps a choice on a bench as it is made. */
export const action = kept("write orders", (desk, input, { params }) =>
  chooseOnBench(desk, { ...input, bench: idOf(params.id) }),
);
