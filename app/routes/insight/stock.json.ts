import { readStock, stockAsked, stockColumns } from "../../../server/queries/insight/stock";
import { programPage } from "../../web/page";

/** The same as JSON. */
export const loader = programPage("see stock values", ({ db, url, day }) => {
  const asked = stockAsked(url.searchParams, day);
  const columns = stockColumns(db, asked.by);
  return Response.json({
    on: asked.on,
    from: asked.from,
    known: asked.knownThen ? "then" : "now",
    rows: readStock(db, asked, Number.POSITIVE_INFINITY).rows.map((r) =>
      Object.fromEntries(columns.map((c) => [c.name, c.cell(r)])),
    ),
  });
});
