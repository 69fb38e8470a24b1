import { saveInWorker } from "../../../server/jobs/saves";
import { breakdownColumns, breakdownOf, cellsOf, readBreakdown } from "../../../server/queries/insight/breakdown";
import { page, programPage } from "../../web/page";
import { saving } from "../../web/saved-files";

/** A breakdown as its address asks for it: a row for each cell (docs/exchange.md). */
export const breakdownCsv = programPage("see insight", ({ db, url, day }) =>
  saving("breakdown", "csv", saveInWorker(db.name, { breakdown: breakdownOf(url.searchParams, day), as: "csv" })),
);
export const breakdownXlsx = page("see insight", ({ db, url, day }) =>
  saving("breakdown", "xlsx", saveInWorker(db.name, { breakdown: breakdownOf(url.searchParams, day), as: "xlsx" })),
);
export const breakdownJson = programPage("see insight", ({ db, url, day }) => {
  const asked = breakdownOf(url.searchParams, day);
  const columns = breakdownColumns(db, asked);
  return Response.json({
    measure: asked.measure,
    from: asked.from,
    until: asked.until,
    filters: asked.filters,
    cells: cellsOf(readBreakdown(db, asked)).map((c) => Object.fromEntries(columns.map((x) => [x.name, x.cell(c)]))),
  });
});
