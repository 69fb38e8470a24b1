import { csvParts } from "../../../server/queries/file-columns";
import { readStock, stockAsked, stockColumns } from "../../../server/queries/insight/stock";
import { programPage } from "../../web/page";
import { saving } from "../../web/saved-files";

/** Stock as its address asks for it: a row for each store, category or item (docs/exchange.md). */
export const loader = programPage("see stock values", ({ db, url, day }) => {
  const asked = stockAsked(url.searchParams, day);
  return saving(
    "stock",
    "csv",
    [...csvParts(stockColumns(db, asked.by), [readStock(db, asked, Number.POSITIVE_INFINITY).rows])].join(""),
  );
});
