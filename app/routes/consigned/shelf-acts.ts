import { may } from "../../../core/people/roles";
import { answerLonger, askLonger } from "../../../server/acts/consigned/longer";
import { sendTheirsBack } from "../../../server/acts/consigned/send-back";
import { takeBackUse } from "../../../server/acts/consigned/take-back";
import { issueAtJob, issueGoods } from "../../../server/acts/stock/issue-goods";
import type { PageActs } from "../../web/page";

/** What is used of one supplier's goods, as a form about one row says it. */
const used = (input: Record<string, unknown>) => ({
  store: input.store,
  job: input.job,
  reason: input.reason,
  rows: [{ item: input.item, quantity: input.quantity, whose: input.owner }],
});

export const shelfActs = {
  use: (desk, input) =>
    may(desk.person.roles, "move stock") ? issueGoods(desk, used(input)) : issueAtJob(desk, used(input)),
  "take back": (desk, input) => takeBackUse(desk, input),
  "send back": (desk, input) => sendTheirsBack(desk, input),
  "ask longer": (desk, input, { house }) =>
    askLonger(
      desk,
      {
        ...input,
        layers: String(input.layers ?? "")
          .split(",")
          .filter(Boolean),
      },
      { site: house.site },
    ),
  "answer longer": (desk, input) => answerLonger(desk, input),
} satisfies PageActs;
export type ShelfWord = keyof typeof shelfActs;
