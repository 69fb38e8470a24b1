import { readNeedSheet } from "../../../server/queries/needs/needs";
import { needQuery } from "../../../server/queries/needs/query";
import { windowOf } from "../../web/list";
import { page } from "../../web/page";

/** Rows of the sheet from one on: the page asks for those that come into sight. */
export const loader = page("see needs", ({ db, url, person, day, hour }) => {
  const window = windowOf(url);
  const { rows, at, count } = readNeedSheet(
    db,
    needQuery(url.searchParams),
    { person: person.id, today: day, hour },
    { from: window.from, most: window.most },
  );
  return Response.json({ from: window.from, rows, at, count });
});
