import { previewChase } from "../../../server/acts/suppliers/chase";
import { now } from "../../web/house";
import { idOf, page } from "../../web/page";

/** What the letter to a supplier would say. */
export const loader = page("see orders", ({ db, person, day, url }) => {
  const orders = (url.searchParams.get("orders") ?? "").split(",").filter(Boolean).map(Number);
  return Response.json(
    previewChase(db, person.id, idOf(url.searchParams.get("supplier") ?? ""), orders, {
      now: now().toISOString(),
      day,
    }),
  );
});
