import { findOrders, orderQuery } from "../../../server/read/orders/finder";
import { page } from "../../web/page";

/** Rows of all orders from one on: the page asks for those that come into sight. */
export const loader = page("see orders", ({ db, url, day }) => {
  const from = Math.max(0, Math.trunc(Number(url.searchParams.get("from")) || 0));
  const most = Math.min(400, Math.max(1, Math.trunc(Number(url.searchParams.get("most")) || 200)));
  const { rows, at, count } = findOrders(db, orderQuery(url.searchParams), day, { from, most });
  return Response.json({ from, rows, at, count });
});
