import { done } from "../../../server/acts/desk";
import { chooseNeeds, forgetChoices } from "../../../server/acts/needs/choose-needs";
import { readNeedSheet } from "../../../server/queries/needs/needs";
import { needQuery } from "../../../server/queries/needs/query";
import { kept } from "../../web/page";

const MOST = 2_000;

/** Keeps what is ticked, typed and chosen as it happens, and answers what that comes to. */
export const action = kept<unknown>("plan", (desk, input, { db, url, person, day, hour }) => {
  const visitor = { person: person.id, today: day, hour };
  const q = needQuery(url.searchParams);
  const answer =
    input.do === "forget"
      ? forgetChoices(desk)
      : chooseNeeds(desk, {
          choices:
            input.do === "tick shown"
              ? readNeedSheet(db, q, visitor, { from: 0, most: MOST })
                  .rows.filter((n) => n.supplier !== null)
                  .map((n) => ({ need: n.key, ticked: true }))
              : input.choices,
        });
  return answer.ok ? done({ ticked: readNeedSheet(db, q, visitor, { from: 0, most: 1 }).ticked }) : answer;
});
