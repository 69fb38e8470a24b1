import type { LoaderFunctionArgs } from "react-router";
import { drawPaper } from "../../../server/jobs/papers/draw";
import { house } from "../../web/house";
import { linkedOrder } from "../../web/linked";

/** The order behind a private link, as a file. */
export const loader = async (args: LoaderFunctionArgs) => {
  const found = linkedOrder(args);
  return new Response(new Uint8Array(await drawPaper(args.context.get(house).db, found.document)), {
    headers: { "Content-Type": "application/pdf", "Content-Disposition": 'attachment; filename="order.pdf"' },
  });
};
