import { previewChase } from "../../../server/acts/suppliers/chase";
import { now } from "../../web/house";
import { idOf, page } from "../../web/page";

/** What the letter to a supplier would say. */
export const loader = page("see orders", ({ db, person, day, url }) => {
  const rows = (url.searchParams.get("rows") ?? "").split(",").filter(Boolean);
  return Response.json(
    previewChase(db, person.id, idOf(url.searchParams.get("supplier") ?? ""), rows, {
      now: now().toISOString(),
      day,
    }),
  );
});
