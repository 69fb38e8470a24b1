import { deliveryFromFile, type ReadDelivery } from "../../../server/acts/consigned/delivery-from-file";
import { refuse } from "../../../server/acts/desk";
import { atOf, kept } from "../../web/page";
import { Upload } from "../../web/sent";

/** A delivery note or despatch advice that fills the page: nothing is registered by it. */
export const action = kept<ReadDelivery>("register goods", (desk, input, { url }) => {
  const { file } = input;
  if (!(file instanceof Upload)) return refuse("file", "Choose the file.");
  return deliveryFromFile(desk.db, atOf(url, "agreement") ?? 0, file, desk.day);
});
