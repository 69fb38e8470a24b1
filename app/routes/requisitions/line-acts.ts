import { decideLine, declineLine } from "../../../server/acts/requisitions/decide-line";
import type { PageActs } from "../../web/page";

/** What a buyer decides about a line that was asked for, on its paper or at its need. */
export const lineActs = {
  decide: (desk, input) => decideLine(desk, { quantity: "", offered: "", ...input }),
  decline: declineLine,
} satisfies PageActs;
export type LineWord = keyof typeof lineActs;
