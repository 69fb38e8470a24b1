import { documentNow } from "../../../server/queries/orders/document";
import { idOf, notFound, page } from "../../web/page";

/** The order as UBL 2.1, for the supplier's own system. */
export const loader = page("see orders", async ({ db, params, day }) => {
  const found = documentNow(db, idOf(params.id), day);
  if (!found) throw notFound("There is no such order.");
  const { orderXml } = await import("../../../exchange/ubl/order-xml");
  return new Response(orderXml(found.document), {
    headers: {
      "Content-Type": "application/xml; charset=utf-8",
      "Content-Disposition": `attachment; filename="order-${found.name}.xml"`,
    },
  });
});
