import type { GoodsDocument } from "../../../exchange/pdf/goods-paper";
import type { Db } from "../../../server/db/open";
import { drawGoods } from "../../../server/jobs/papers/draw";

/** A paper that goes with goods, shown in the browser. */
export async function goodsAnswer(db: Db, document: GoodsDocument): Promise<Response> {
  const pdf = await drawGoods(db, document);
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="${document.kind}-${document.number}.pdf"`,
    },
  });
}
