import { keepAside, scrapAside, sendBackAside } from "../../../server/acts/receiving/decide-aside";
import type { PageActs } from "../../web/page";

/** A row of a form becomes the one row that the act is about. */
const rowsOf = (input: Record<string, unknown>) => ({
  ...input,
  rows: [{ aside: input.aside, seen: input.seen, quantity: input.quantity ?? "" }],
});
export const asideActs = {
  keep: (desk, input) => keepAside(desk, rowsOf(input)),
  "send back": (desk, input) => sendBackAside(desk, rowsOf(input)),
  scrap: (desk, input) => scrapAside(desk, rowsOf(input)),
} satisfies PageActs;
export type AsideWord = keyof typeof asideActs;
