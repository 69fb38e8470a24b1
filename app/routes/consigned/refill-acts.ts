import { askRefill, giveUpRefill, promiseRefill } from "../../../server/acts/consigned/refill";
import { drawConsigned } from "../../../server/jobs/papers/draw";
import type { PageActs } from "../../web/page";

export const refillActs = {
  ask: (desk, input, { house }) => askRefill(desk, input, { site: house.site, draw: drawConsigned }),
  promise: (desk, input) => promiseRefill(desk, input),
  "give up": (desk, input) => giveUpRefill(desk, input),
} satisfies PageActs;
export type RefillWord = keyof typeof refillActs;
