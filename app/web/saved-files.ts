import { saveInWorker } from "../../server/jobs/saves";
import { readOrderHead } from "../../server/queries/orders/order";
import { idOf, notFound, page } from "./page";

type As = "csv" | "xlsx";
const TYPES: Record<As | "xml", string> = {
  csv: "text/csv; charset=utf-8",
  xml: "application/xml",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
};

/** A file that is written while it is sent, for the browser to save. */
export const saving = (name: string, as: As | "xml", body: BodyInit) =>
  new Response(body, {
    headers: { "Content-Type": TYPES[as], "Content-Disposition": `attachment; filename="${name}.${as}"` },
  });

/** The lines of one order, as a file. */
const orderLines = (as: As) =>
  page("see orders", ({ db, params }) => {
    const head = readOrderHead(db, idOf(params.id));
    if (!head) throw notFound("There is no such order.");
    return saving(`order-${head.name}`, as, saveInWorker(db.name, { linesOf: head.id, as }));
  });
export const orderLinesCsv = orderLines("csv");
export const orderLinesXlsx = orderLines("xlsx");

/** A supplier's price list, in the columns of the prices file. */
const prices = (as: As) =>
  page("see prices", ({ db, params }) =>
    saving("prices", as, saveInWorker(db.name, { pricesOf: idOf(params.id), as })),
  );
export const pricesCsv = prices("csv");
export const pricesXlsx = prices("xlsx");
