import { readStockBeside, stockAsked } from "../../../server/queries/insight/stock";
import { page } from "../../web/page";

/** What stands beside a row of the stock. */
export const loader = page("see stock values", async ({ db, url, day }) =>
  Response.json(
    await readStockBeside(
      db,
      stockAsked(url.searchParams, day),
      (url.searchParams.get("key") ?? "").slice(0, 120),
      day,
    ),
  ),
);
