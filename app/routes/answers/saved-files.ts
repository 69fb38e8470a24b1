import { linesCsv, linesWorkbook } from "../../../server/read/orders/export";
import { readOrder } from "../../../server/read/orders/order";
import { priceListCsv, priceListWorkbook } from "../../../server/read/records/price-list";
import { saveInWorker } from "../../../server/workers/saves";
import { idOf, notFound, page } from "../../web/page";

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
export const orderLinesCsv = page("see orders", ({ db, params }) => {
  const sheet = readOrder(db, idOf(params.id));
  if (!sheet) throw notFound("There is no such order.");
  return new Response(linesCsv(sheet), { headers: headers(CSV, `order-${sheet.head.name}.csv`) });
});

export const orderLinesXlsx = page("see orders", async ({ db, params }) => {
  const sheet = readOrder(db, idOf(params.id));
  if (!sheet) throw notFound("There is no such order.");
  return new Response(new Uint8Array(await linesWorkbook(sheet)), {
    headers: headers(XLSX, `order-${sheet.head.name}.xlsx`),
  });
});

/** A supplier's price list, in the columns of the prices file. */
export const pricesCsv = page("see prices", ({ db, params }) => {
  return new Response(priceListCsv(db, idOf(params.id)), { headers: headers(CSV, "prices.csv") });
});

export const pricesXlsx = page("see prices", async ({ db, params }) => {
  return new Response(new Uint8Array(await priceListWorkbook(db, idOf(params.id))), {
    headers: headers(XLSX, "prices.xlsx"),
  });
});
