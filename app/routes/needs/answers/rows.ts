import { readNeedSheet } from "../../../../server/read/needs/needs";
import { needQuery } from "../../../../server/read/needs/query";
import { page } from "../../../web/page";

/** Rows of the sheet from one on: the page asks for those that come into sight. */
export const loader = page("see needs", ({ db, url, person, day, hour }) => {
  const from = Math.max(0, Math.trunc(Number(url.searchParams.get("from")) || 0));
  const most = Math.min(400, Math.max(1, Math.trunc(Number(url.searchParams.get("most")) || 200)));
  const { rows, at, count } = readNeedSheet(
    db,
    needQuery(url.searchParams),
    { person: person.id, today: day, hour },
    { from, most },
  );
  return Response.json({ from, rows, at, count });
});
