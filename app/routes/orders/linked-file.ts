import type { LoaderFunctionArgs } from "react-router";
import { readSentFile } from "../../../server/queries/orders/link";
import { house } from "../../web/house";
import { linkedOrder } from "../../web/linked";
import { idOf } from "../../web/page";
import { savedFile } from "../../web/saved-file";

/** A file that was sent with the order behind a private link. */
export const loader = (args: LoaderFunctionArgs) => {
  const { order } = linkedOrder(args);
  return savedFile(readSentFile(args.context.get(house).db, order, idOf(args.params.file)));
};
