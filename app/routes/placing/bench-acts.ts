import { redirect } from "react-router";
import { done, refuse } from "../../../server/acts/desk";
import { bringForward } from "../../../server/acts/placing/bring-forward";
import { takePlan } from "../../../server/acts/placing/choose";
import { joinDraft, keepAhead, putAwayBench, renameBench } from "../../../server/acts/placing/keep-bench";
import { keepSourcing } from "../../../server/acts/records/keep-sourcing";
import { beginPlans, stopPlans } from "../../../server/jobs/placing/plans";
import { readBench } from "../../../server/queries/placing/bench";
import type { House } from "../../web/house";
import type { PageActs } from "../../web/page";
import { readJson } from "../../web/page";
import { newSupplier } from "../needs/add-supplier";

/** A plan that failed in its worker. */
export const planFault =
  ({ log, watch }: House) =>
  (err: unknown) => {
    log.error({ err }, "a plan failed");
    watch.failed("failed job", "a plan", err);
  };

/** What one bench does; `bench` is the one of the address. */
export const benchActs = {
  take: takePlan,
  "begin plans": (desk, input, { house }) => {
    const bench = Number(input.bench);
    const sheet = readBench(desk.db, bench, desk.day, desk.hour);
    if (!sheet) return refuse("", "There is no such bench.");
    beginPlans(bench, sheet.mark, sheet.problem, { again: true, onFault: planFault(house) });
    return done({});
  },
  "stop plans": (_, input) => {
    stopPlans(String(input.mark));
    return done({});
  },
  join: (desk, { bench, order, join }) => joinDraft(desk, { bench, order, join: join === "yes" }),
  "bring forward": (desk, { bench, order, ids }) => bringForward(desk, { bench, order, ids: readJson(ids) }),
  "add supplier": (desk, input) => keepSourcing(desk, newSupplier(input)),
  ahead: keepAhead,
  rename: renameBench,
  "put away": (desk, { bench }) => {
    const away = putAwayBench(desk, { bench });
    if (away.ok) throw redirect("/bench");
    return away;
  },
} satisfies PageActs;
export type BenchWord = keyof typeof benchActs;
