import { decideLine, declineLine } from "../../../server/acts/requisitions/decide-line";
import type { Runs } from "../../web/page";

/** What a buyer decides about a line that was asked for, on its paper or at its need. */
export const lineActs = {
  decide: (desk, input) => decideLine(desk, { quantity: "", offered: "", ...input }),
  decline: declineLine,
} satisfies Runs;
export type LineWord = keyof typeof lineActs;
