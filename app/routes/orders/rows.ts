import { findOrders, orderQuery } from "../../../server/queries/orders/finder";
import { page, wholeOf } from "../../web/page";

/** Rows of all orders from one on: the page asks for those that come into sight. */
export const loader = page("see orders", ({ db, url, day }) => {
  const from = wholeOf(url, "from", { least: 0, most: 1e9, or: 0 });
  const most = wholeOf(url, "most", { least: 1, most: 400, or: 200 });
  const { rows, at, count } = findOrders(db, orderQuery(url.searchParams), day, { from, most });
  return Response.json({ from, rows, at, count });
});
