import type { LoaderFunctionArgs } from "react-router";
import { orderPdf } from "../../../exchange/pdf/order-pdf";
import { linkedOrder } from "../../web/linked";

/** The order behind a private link, as a file. */
export const loader = async (args: LoaderFunctionArgs) => {
  const found = linkedOrder(args);
  return new Response(new Uint8Array(await orderPdf(found.document)), {
    headers: { "Content-Type": "application/pdf", "Content-Disposition": 'attachment; filename="order.pdf"' },
  });
};
