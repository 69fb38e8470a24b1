import type { ItemId } from "../../../core/ids";
import { readAskedPrices } from "../../../server/queries/insight/lists";
import { readPaidOf } from "../../../server/queries/insight/paid";
import { recordAsked } from "../../../server/queries/insight/record";
import { atOf, page } from "../../web/page";

/** What was paid for one item in some days, and what lists, quotes and agreements ask for it. */
export const loader = page("see insight", ({ db, url, day }) => {
  const item = (atOf(url, "item") ?? 0) as ItemId; // 0 is no item's
  return Response.json({
    paid: readPaidOf(db, item, recordAsked(url.searchParams, day).period),
    asked: readAskedPrices(db, item),
  });
});
