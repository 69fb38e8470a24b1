import { fillUp } from "../../../server/jobs/placing/fill-up";
import { idOf, page } from "../../web/page";

/** How an order could be filled up, and whether that pays; null where it lacks nothing any more. */
export const loader = page("write orders", async ({ db, params, url, day, hour }) => {
  const part = (name: string) => (url.searchParams.get(name) ?? "").slice(0, 60);
  const name = { order: part("order"), kind: part("kind"), item: part("item") };
  return Response.json({ fill: await fillUp(db, idOf(params.id), name, day, hour) });
});
