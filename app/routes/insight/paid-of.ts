import { readPaidOf } from "../../../server/queries/insight/paid";
import { recordAsked } from "../../../server/queries/insight/record";
import { atOf, page } from "../../web/page";

/** What was paid for one item in some days. */
export const loader = page("see insight", ({ db, url, day }) =>
  Response.json(readPaidOf(db, atOf(url, "item") ?? 0, recordAsked(url.searchParams, day).period)),
);
