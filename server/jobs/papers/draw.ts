import type { GoodsDocument } from "../../../exchange/pdf/goods-paper";
import { lookOf, type OrderDocument } from "../../../exchange/pdf/order-document";
import type { ReportDocument } from "../../../exchange/pdf/report-paper";
import type { StockDocument } from "../../../exchange/pdf/stock-paper";
import type { DrawConsigned } from "../../acts/consigned/letters";
import type { Draw } from "../../acts/orders/letters";
import type { Db } from "../../db/open";
import { logoNow, readLogo } from "../../queries/papers/templates";
import { inWorker } from "../crew";

/** Draws a paper in a worker, so that the server goes on answering meanwhile. */
export const drawInWorker: Draw = async (document, logo) => {
  const { pdf } = await inWorker("paper", { document, logo });
  return Buffer.from(pdf.buffer, pdf.byteOffset, pdf.byteLength);
};

/** A paper that goes with goods as PDF, with the house's sign as it is now. */
export async function drawGoods(db: Db, document: GoodsDocument): Promise<Buffer> {
  const { pdf } = await inWorker("goods", { document, logo: readLogo(db, logoNow(db)) });
  return Buffer.from(pdf.buffer, pdf.byteOffset, pdf.byteLength);
}

/** A paper of the house's own stock as PDF. */
export async function drawStock(db: Db, document: StockDocument): Promise<Buffer> {
  const { pdf } = await inWorker("stock", { document, logo: readLogo(db, logoNow(db)) });
  return Buffer.from(pdf.buffer, pdf.byteOffset, pdf.byteLength);
}

/** Figures for reading as PDF. */
export async function drawReport(db: Db, document: ReportDocument): Promise<Buffer> {
  const { pdf } = await inWorker("report", { document, logo: readLogo(db, logoNow(db)) });
  return Buffer.from(pdf.buffer, pdf.byteOffset, pdf.byteLength);
}

/** A paper about a supplier's goods, drawn in a worker. */
export const drawConsigned: DrawConsigned = async (document, logo) => {
  const { pdf } = await inWorker("consigned", { document, logo });
  return Buffer.from(pdf.buffer, pdf.byteOffset, pdf.byteLength);
};

/** A paper as PDF, in its own look; `prices: false` leaves out what it costs. */
export function drawPaper(
  db: Db,
  document: OrderDocument,
  { prices = true, draw = drawInWorker }: { prices?: boolean; draw?: Draw } = {},
): Promise<Buffer> {
  const look = lookOf(document);
  return draw(prices ? document : { ...document, look: { ...look, prices: false } }, readLogo(db, look.logo));
}
