import { freeHeld, undoReceipt } from "../../../server/acts/receiving/undo-receipt";
import type { PageActs } from "../../web/page";

/** "quantity:12" of a form is how much of line 12 is undone, "seen:12" what was left of it. */
const linesOf = (input: Record<string, unknown>) =>
  Object.keys(input)
    .filter((k) => k.startsWith("quantity:"))
    .map((k) => k.slice("quantity:".length))
    .map((line) => ({ line, seen: input[`seen:${line}`], quantity: input[`quantity:${line}`] }));

export const undoActs = {
  undo: (desk, input, { params }) =>
    undoReceipt(desk, { ...input, receipt: params.id, lines: input.whole === "yes" ? [] : linesOf(input) }),
  free: (desk, input, { params }) => freeHeld(desk, { ...input, receipt: params.id }),
} satisfies PageActs;
export type UndoWord = keyof typeof undoActs;
