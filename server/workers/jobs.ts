import type { Day } from "../../core/calendar/day";
import type { Measure } from "../../core/placing/model";
import type { Placing, Problem } from "../../core/placing/problem";
import type { Rules } from "../../core/signoff/rulebook";
import type { TrialResult } from "../../core/signoff/trial";
import type { OrderDocument } from "../../exchange/pdf/order-document";
import type { Logo } from "../../exchange/pdf/paper";
import type { Solved, Standing } from "../placing/solve";
import type { Need, PlanFor } from "../read/needs/need";
import type { ReviewRow } from "../read/needs/review";

/** What is worked out beside the web server, so that other requests go on meanwhile. */
export interface Jobs {
  place: {
    input: { problem: Problem; measures: readonly Measure[]; seconds: number };
    part: { standing: Standing } | { placing: Placing };
    output: { solved: Solved | null; hindrances: string[] };
  };
  review: { input: { file: string; today: Day }; part: ReviewRow[]; output: { pairs: number } };
  paper: { input: { document: OrderDocument; logo: Logo | null }; part: never; output: { pdf: Uint8Array } };
  trial: {
    input: { file: string; rules: Rules; today: Day };
    part: { done: number; all: number };
    output: TrialResult;
  };
  plan: { input: { file: string; plan: PlanFor }; part: Need[]; output: { at: number; pairs: number } };
}
export type JobName = keyof Jobs;

/** What a worker says while it works. */
export type Said<J extends JobName> = { done: number } | { part: Jobs[J]["part"] };

export interface Task<J extends JobName> {
  job: J;
  input: Jobs[J]["input"];
  port: import("node:worker_threads").MessagePort;
}
