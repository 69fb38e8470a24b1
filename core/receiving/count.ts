import { minus, type PurchaseQty, quantityText } from "../numbers/quantity";
import { unitWords } from "../text";

export interface OpenLine {
  ordered: PurchaseQty;
  received: PurchaseQty;
}

/** What is still to come on a line (domain §11). */
export const openToCount = (line: OpenLine) => minus(line.ordered, line.received);

export type Counted =
  | { kind: "not counted" }
  | { kind: "as ordered" }
  | { kind: "part"; left: PurchaseQty }
  | { kind: "over"; over: PurchaseQty };

/** How a count compares with what was open. More than was ordered is not taken in: the house allows none over. */
export function judge(line: OpenLine, counted: PurchaseQty | null): Counted {
  if (counted === null || counted === 0) return { kind: "not counted" };
  const open = openToCount(line);
  if (counted > open) return { kind: "over", over: minus(counted, open) };
  return counted === open ? { kind: "as ordered" } : { kind: "part", left: minus(open, counted) };
}

/** The judgement in the dock's words. */
export function judgeWords(judged: Counted, unit: string): string {
  switch (judged.kind) {
    case "not counted":
      return "not counted yet";
    case "as ordered":
      return "as ordered";
    case "part":
      return `${quantityText(judged.left)} ${unitWords(judged.left, unit)} still to come`;
    case "over":
      return `${quantityText(judged.over)} ${unitWords(judged.over, unit)} more than was ordered`;
  }
}
