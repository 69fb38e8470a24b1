import { giveBack } from "../../../server/acts/jobs/give-back";
import { closeJob, keepJob } from "../../../server/acts/jobs/keep-job";
import { tieDemand, tieJob } from "../../../server/acts/jobs/tie-demand";
import { issueAtJob } from "../../../server/acts/stock/issue-goods";
import type { PageActs } from "../../web/page";
import { readJson } from "../../web/page";

/** What a job's page does; `job` is the one of the address. */
export const jobActs = {
  keep: (desk, input) =>
    keepJob(desk, { ...input, lines: readJson(input.lines) ?? [], outputs: readJson(input.outputs) ?? [] }),
  "tie all": tieJob,
  tie: tieDemand,
  close: closeJob,
  "give back": giveBack,
  use: (desk, input) => {
    const [store, item] = String(input.goods ?? "").split("/");
    return issueAtJob(desk, { store, job: input.job, rows: [{ item, quantity: input.quantity }] });
  },
} satisfies PageActs;
export type JobWord = keyof typeof jobActs;
