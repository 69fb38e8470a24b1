import type { OrderDocument } from "../../../exchange/pdf/order-document";
import { orderPdf } from "../../../exchange/pdf/order-pdf";
import { sql } from "../../../server/db/open";
import { documentOf } from "../../../server/desk/orders/place-order";
import { readOrder } from "../../../server/read/orders/order";
import { idOf, notFound, page } from "../../web/page";

/** The newest version as it left the house; before that, how it would look. */
export const loader = page("see orders", async ({ db, params, day }) => {
  const id = idOf(params.id);
  const sheet = readOrder(db, id);
  if (!sheet) throw notFound("There is no such order.");
  const placed = sql<{ document: string }>(
    db,
    "SELECT document FROM order_version WHERE purchase_order = ? ORDER BY version DESC LIMIT 1",
  ).get(id);
  const document = placed
    ? (JSON.parse(placed.document) as OrderDocument)
    : { ...documentOf(db, sheet, day), number: null };
  const pdf = await orderPdf(document);
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="order-${sheet.head.name}.pdf"`,
    },
  });
});
