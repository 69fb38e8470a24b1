import { readNeedSheet } from "../../../server/queries/needs/needs";
import { needQuery } from "../../../server/queries/needs/query";
import { page, wholeOf } from "../../web/page";

/** Rows of the sheet from one on: the page asks for those that come into sight. */
export const loader = page("see needs", ({ db, url, person, day, hour }) => {
  const from = wholeOf(url, "from", { least: 0, most: 1e9, or: 0 });
  const most = wholeOf(url, "most", { least: 1, most: 400, or: 200 });
  const { rows, at, count } = readNeedSheet(
    db,
    needQuery(url.searchParams),
    { person: person.id, today: day, hour },
    { from, most },
  );
  return Response.json({ from, rows, at, count });
});
