import { saveInWorker } from "../../server/jobs/saves";
import { readOrderHead } from "../../server/queries/orders/order";
import { idOf, notFound, page } from "./page";

const CSV = "text/csv; charset=utf-8";
const XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";
const headers = (type: string, name: string) => ({
  "Content-Type": type,
  "Content-Disposition": `attachment; filename="${name}"`,
});

/** All orders that the page shows, as a file. */
const orders = (as: "csv" | "xlsx", type: string) =>
  page("see orders", ({ db, url, day }) => {
    const body = saveInWorker(db.name, { orders: url.search, as, today: day });
    return new Response(body, { headers: headers(type, `orders.${as}`) });
  });
export const ordersCsv = orders("csv", CSV);
export const ordersXlsx = orders("xlsx", XLSX);

/** The lines of one order, as a file. */
const orderLines = (as: "csv" | "xlsx", type: string) =>
  page("see orders", ({ db, params }) => {
    const head = readOrderHead(db, idOf(params.id));
    if (!head) throw notFound("There is no such order.");
    return new Response(saveInWorker(db.name, { linesOf: head.id, as }), {
      headers: headers(type, `order-${head.name}.${as}`),
    });
  });
export const orderLinesCsv = orderLines("csv", CSV);
export const orderLinesXlsx = orderLines("xlsx", XLSX);

/** A supplier's price list, in the columns of the prices file. */
const prices = (as: "csv" | "xlsx", type: string) =>
  page(
    "see prices",
    ({ db, params }) =>
      new Response(saveInWorker(db.name, { pricesOf: idOf(params.id), as }), {
        headers: headers(type, `prices.${as}`),
      }),
  );
export const pricesCsv = prices("csv", CSV);
export const pricesXlsx = prices("xlsx", XLSX);
