import { type Desk, type Done, done } from "../../../server/acts/desk";
import { chooseNeeds, forgetChoices } from "../../../server/acts/needs/choose-needs";
import { readNeedSheet } from "../../../server/queries/needs/needs";
import { needQuery } from "../../../server/queries/needs/query";
import { kept, oneOf, type PageAct, type PageActs, type Visit } from "../../web/page";
import type { Sent } from "../../web/sent";

const MOST = 2_000;

const ticked = ({ db, url, person, day, hour }: Visit, most: number) =>
  readNeedSheet(db, needQuery(url.searchParams), { person: person.id, today: day, hour }, { from: 0, most });

/** Answers with all that is ticked, once it is kept. */
const choosing =
  (run: (desk: Desk, input: Sent, visit: Visit) => Done<unknown>): PageAct<unknown> =>
  (desk, input, visit) => {
    const answer = run(desk, input, visit);
    return answer.ok ? done({ ticked: ticked(visit, 1).ticked }) : answer;
  };

const chooseActs = {
  choose: choosing((desk, { choices }) => chooseNeeds(desk, { choices })),
  forget: choosing(forgetChoices),
  "tick shown": choosing((desk, _, visit) =>
    chooseNeeds(desk, {
      choices: ticked(visit, MOST)
        .rows.filter((n) => n.supplier !== null)
        .map((n) => ({ need: n.key, ticked: true })),
    }),
  ),
} satisfies PageActs;
export type ChooseWord = keyof typeof chooseActs;

/** Keeps what is ticked, typed and chosen as it happens, and answers what that comes to. */
export const action = kept("plan", oneOf(chooseActs));
