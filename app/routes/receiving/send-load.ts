import { receiveLoad } from "../../../server/acts/receiving/receive-goods";
import { kept } from "../../web/page";

/** An open count that is taken in: sent at once, or when the connection is back. */
export const action = kept("count in", (desk, input) => receiveLoad(desk, input));
