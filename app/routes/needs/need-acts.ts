import { redirect } from "react-router";
import { done } from "../../../server/acts/desk";
import { mergeNeeds, partNeeds } from "../../../server/acts/needs/merge-needs";
import { dropNoted } from "../../../server/acts/needs/note-needs";
import { writeOrders } from "../../../server/acts/orders/write-orders";
import { layOutBench } from "../../../server/acts/placing/lay-out";
import { keepSourcing } from "../../../server/acts/records/keep-sourcing";
import { chooseSupplier } from "../../../server/acts/requisitions/choose-supplier";
import { meetByTransfer } from "../../../server/acts/stock/transfers";
import { readNeedSheet } from "../../../server/queries/needs/needs";
import { beginPlan, stopPlan } from "../../../server/queries/needs/pool";
import { needQuery, planOf } from "../../../server/queries/needs/query";
import type { PageActs, Visit } from "../../web/page";
import { readJson } from "../../web/page";
import { viewActs } from "../../web/view-acts";
import { lineActs } from "../requisitions/line-acts";
import { newSupplier } from "./add-supplier";

/** What the address of the sheet asks for, and what is ticked in it. */
function sheetOf({ db, url, person, day, hour }: Visit) {
  const query = needQuery(url.searchParams);
  const { ticked } = readNeedSheet(db, query, { person: person.id, today: day, hour }, { from: 0, most: 1 });
  return { ticked: ticked.map((t) => t.key), run: query.run, asOf: query.asOf ?? "" };
}
const planAt = ({ url, day, hour }: Visit) => planOf(needQuery(url.searchParams), day, hour);

/** What the sheet of needs does. */
export const needActs = {
  ...viewActs("needs"),
  ...lineActs,
  "lay out": (desk, input, visit) => {
    const { ticked: needs, ...plan } = sheetOf(visit);
    const laid = layOutBench(desk, { needs, bench: input.bench ?? "", ...plan });
    if (laid.ok) throw redirect(`/bench/${laid.value.bench}`);
    return laid;
  },
  write: (desk, input, visit) => {
    const { ticked, ...plan } = sheetOf(visit);
    const chosen = readJson(input.picks);
    const picks = Array.isArray(chosen) ? chosen : ticked.map((need) => ({ need }));
    const written = writeOrders(desk, { picks, ...plan });
    if (!written.ok) return written;
    const [first, ...more] = written.value.orders;
    throw redirect(more.length ? `/bench?written=${written.value.orders.join(",")}` : `/orders/${first}`);
  },
  "choose supplier": chooseSupplier,
  "add supplier": (desk, input) => keepSourcing(desk, newSupplier(input)),
  transfer: meetByTransfer,
  merge: mergeNeeds,
  part: partNeeds,
  "drop noted": dropNoted,
  "stop plan": (desk, _, visit) => {
    stopPlan(desk.db, planAt(visit));
    return done({});
  },
  "begin plan": (desk, _, visit) => {
    beginPlan(desk.db, planAt(visit));
    return done({});
  },
} satisfies PageActs;
export type NeedWord = keyof typeof needActs;
