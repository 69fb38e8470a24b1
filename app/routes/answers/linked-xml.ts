import type { LoaderFunctionArgs } from "react-router";
import { orderXml } from "../../../exchange/ubl/order-xml";
import { linkedOrder } from "../../web/linked";

/** The order behind a private link, as a file. */
export const loader = (args: LoaderFunctionArgs) => {
  const found = linkedOrder(args);
  return new Response(orderXml(found.document), {
    headers: { "Content-Type": "application/xml", "Content-Disposition": 'attachment; filename="order.xml"' },
  });
};
