import { redirect } from "react-router";
import { bookCount, dropCount, handInCount, judgeCount, startCount } from "../../../server/acts/stock/count-stock";
import type { PageActs } from "../../web/page";

export const startActs = {
  start: (desk, input) => {
    const begun = startCount(desk, input);
    if (begun.ok) throw redirect(`/stock-counts/${begun.value.count}`);
    return begun;
  },
} satisfies PageActs;
export type StartWord = keyof typeof startActs;

export const countActs = {
  "hand in": (desk, input) => handInCount(desk, input),
  judge: (desk, input) => judgeCount(desk, input),
  // One line, from its slip.
  "judge one": (desk, input) =>
    judgeCount(desk, { ...input, rows: [{ line: input.line, what: input.what, seen: input.seen }] }),
  book: (desk, input) => bookCount(desk, input),
  drop: (desk, input) => dropCount(desk, input),
} satisfies PageActs;
export type CountWord = keyof typeof countActs;
