import type { LoaderFunctionArgs } from "react-router";
import { lookOf } from "../../../exchange/pdf/order-document";
import { linkedOrder } from "../../web/linked";
import { notFound } from "../../web/page";

/** The order behind a private link, as a file. */
export const loader = async (args: LoaderFunctionArgs) => {
  const found = linkedOrder(args);
  if (!lookOf(found.document).prices) throw notFound("This order was sent without prices, so there is no such file.");
  const { orderXml } = await import("../../../exchange/ubl/order-xml");
  return new Response(orderXml(found.document), {
    headers: { "Content-Type": "application/xml", "Content-Disposition": 'attachment; filename="order.xml"' },
  });
};
