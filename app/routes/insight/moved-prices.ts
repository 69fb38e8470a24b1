import type { SupplierId } from "../../../core/ids";
import { readMovedPrices } from "../../../server/queries/insight/lists";
import { recordAsked } from "../../../server/queries/insight/record";
import { atOf, page } from "../../web/page";

/** Prices of one supplier's list that moved between two days. */
export const loader = page("see insight", ({ db, url, day }) =>
  Response.json(
    readMovedPrices(db, (atOf(url, "supplier") ?? 0) as SupplierId, recordAsked(url.searchParams, day).period), // 0 is no supplier's
  ),
);
