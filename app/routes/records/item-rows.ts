import { itemSheet } from "../../../server/queries/records/items";
import { page, wholeOf } from "../../web/page";

/** Rows of all items from one on: the page asks for those that come into sight. */
export const loader = page("see items", ({ db, url }) => {
  const from = wholeOf(url, "from", { least: 0, most: 1e9, or: 0 });
  const most = wholeOf(url, "most", { least: 1, most: 400, or: 200 });
  const { rows, at, count } = itemSheet(db, url.searchParams.get("find") ?? "", { from, most });
  return Response.json({ from, rows, at, count });
});
