import { cancelledWith, documentNow } from "../../../server/queries/orders/document";
import { atOf, idOf, notFound, page } from "../../web/page";

/**
 * The order as UBL 2.1, for the supplier's own system: the version that holds, or the one that `?version=` names; of
 * one that was closed before anything came, its cancellation.
 */
export const loader = page("see orders", async ({ db, params, day, url }) => {
  const found = documentNow(db, idOf(params.id), day, atOf(url, "version"));
  if (!found) throw notFound("There is no such order.");
  const { cancellationXml, orderXml } = await import("../../../exchange/ubl/order-xml");
  const ended = cancelledWith(db, idOf(params.id));
  return new Response(ended ? cancellationXml(found.document, ended.day, ended.why) : orderXml(found.document), {
    headers: {
      "Content-Type": "application/xml; charset=utf-8",
      "Content-Disposition": `attachment; filename="order-${found.name}.xml"`,
    },
  });
});
