import type { SpendMeasure } from "../../../core/insight/breakdown";
import type { SpendCause } from "../../../core/insight/why";

/** The page of a paper that a measure is added up from. */
export const sourceHref = (measure: SpendMeasure, id: number): string =>
  measure === "ordered" || measure === "to come"
    ? `/orders/${id}`
    : measure === "asked"
      ? `/requisitions/${id}`
      : measure === "received"
        ? `/receipts/${id}`
        : `/settle/${id}`;
export const BEHIND_WORDS: Record<SpendMeasure, string> = {
  asked: "requisition",
  ordered: "order",
  "to come": "order",
  received: "receipt",
  invoiced: "invoice",
};

/** Why spend changed. */
export const CAUSE_SAYS: Record<SpendCause, string> = {
  price: "price",
  currency: "exchange rates",
  quantity: "quantity",
  new: "new",
  gone: "not bought any more",
  other: "other",
};
