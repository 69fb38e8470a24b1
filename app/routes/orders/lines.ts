import { readLineSlip } from "../../../server/queries/orders/line-slip";
import { readOrderHead } from "../../../server/queries/orders/order";
import { readSold } from "../../../server/queries/orders/sold";
import { idOf, notFound, page, wholeOf } from "../../web/page";

/** For scripts of the draft page: `line=` what stands beside a line, `text=` what its supplier sells. */
export const loader = page("see benches", ({ db, params, url, day, hour }) => {
  const order = idOf(params.id);
  const line = url.searchParams.get("line");
  if (line !== null) {
    const slip = readLineSlip(db, order, idOf(line), day, hour);
    if (!slip) throw notFound("This line is not on this order any more.");
    return Response.json(slip);
  }
  const head = readOrderHead(db, order);
  if (!head) throw notFound("There is no such order.");
  const text = (url.searchParams.get("text") ?? "").slice(0, 80);
  const most = wholeOf(url, "most", { least: 1, most: 500, or: 10 });
  return Response.json(readSold(db, order, head.supplier, text, most, day));
});
