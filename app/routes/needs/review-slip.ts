import { readReviewOf } from "../../../server/queries/needs/review";
import { idOf, notFound, page } from "../../web/page";

export const loader = page("see needs", ({ db, url, day }) => {
  const of = (name: string) => idOf(url.searchParams.get(name) ?? "");
  const row = readReviewOf(db, day, { item: of("item"), store: of("store") });
  if (!row) throw notFound("Nothing can be said of this item here.");
  return Response.json({ sum: row.sum });
});
