import type { Day } from "../../core/calendar/day";
import type { Need, PlanFor } from "../read/needs/need";
import type { ReviewRow } from "../read/needs/review";

/** What is worked out beside the web server, so that other requests go on meanwhile. */
export interface Jobs {
  review: { input: { file: string; today: Day }; part: ReviewRow[]; output: { pairs: number } };
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
