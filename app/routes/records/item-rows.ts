import { itemSheet } from "../../../server/read/records/items";
import { page } from "../../web/page";

/** Rows of all items from one on: the page asks for those that come into sight. */
export const loader = page("see items", ({ db, url }) => {
  const from = Math.max(0, Math.trunc(Number(url.searchParams.get("from")) || 0));
  const most = Math.min(400, Math.max(1, Math.trunc(Number(url.searchParams.get("most")) || 200)));
  const { rows, at, count } = itemSheet(db, url.searchParams.get("find") ?? "", { from, most });
  return Response.json({ from, rows, at, count });
});
