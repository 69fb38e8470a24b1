import { theirsLost } from "../../../server/acts/consigned/lost-and-found";
import { issueGoods, takeBackFromJob } from "../../../server/acts/stock/issue-goods";
import { moveGoods } from "../../../server/acts/stock/move-goods";
import { writeOff } from "../../../server/acts/stock/write-off";
import type { PageActs } from "../../web/page";

/** A form about one place becomes the one row that the act is about. */
const row = (input: Record<string, unknown>, more: object) => ({
  item: input.item,
  lot: input.lot,
  quantity: input.quantity,
  ...more,
});

export const placeActs = {
  move: (desk, input) =>
    moveGoods(desk, { ...input, rows: [row(input, { from: input.bin, to: input.to, owner: input.owner })] }),
  issue: (desk, input) =>
    issueGoods(desk, { ...input, named: true, rows: [row(input, { bin: input.bin, whose: input.owner || "ours" })] }),
  "from job": (desk, input) => takeBackFromJob(desk, { ...input, bin: input.into }),
  "write off": (desk, input) => writeOff(desk, input),
  "theirs lost": (desk, input) => theirsLost(desk, input),
} satisfies PageActs;
export type PlaceWord = keyof typeof placeActs;
