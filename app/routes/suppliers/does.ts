import type { OrderId } from "../../../core/ids";
import { shortageOf } from "../../../core/suppliers/ways-out";
import { tryAnswers } from "../../../server/acts/suppliers/try-answer";
import { waysOut } from "../../../server/acts/suppliers/way-out";
import { now } from "../../web/house";
import { idOf, page } from "../../web/page";

/** What taking an answer would do, and the ways out of what it leaves short; nothing where it does not wait any more. */
function read(desk: Parameters<typeof waysOut>[1], order: OrderId, answer: number) {
  const found = tryAnswers(desk.db, order, [answer], desk);
  if (!found) return { effects: [], ways: [], short: null };
  return {
    effects: found.effects,
    ways: waysOut(desk.db, desk, order, answer, found),
    short: shortageOf(found.effects),
  };
}
export type AnswerDoes = ReturnType<typeof read>;

export const loader = page("see orders", ({ db, person, day, hour, url }) =>
  Response.json(
    read(
      { db, person, day, hour, now: now().toISOString(), key: "" },
      idOf(url.searchParams.get("order") ?? ""),
      idOf(url.searchParams.get("answer") ?? ""),
    ),
  ),
);
