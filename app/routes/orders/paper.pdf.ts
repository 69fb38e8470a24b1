import { drawPaper } from "../../../server/jobs/papers/draw";
import { documentNow } from "../../../server/queries/orders/document";
import { atOf, idOf, notFound, page } from "../../web/page";

/** The version that holds as it left the house, or the one that `?version=` names; before that, how it would look. `?prices=no` leaves out what it costs. */
export const loader = page("see orders", async ({ db, params, day, url }) => {
  const found = documentNow(db, idOf(params.id), day, atOf(url, "version"));
  if (!found) throw notFound("There is no such order.");
  const pdf = await drawPaper(db, found.document, { prices: url.searchParams.get("prices") !== "no" });
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="order-${found.name}.pdf"`,
    },
  });
});
