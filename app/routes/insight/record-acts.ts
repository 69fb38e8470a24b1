import { planWith } from "../../../server/acts/insight/plan-with";
import type { PageActs } from "../../web/page";

export const recordActs = { plan: (desk, input) => planWith(desk, input) } satisfies PageActs;
export type RecordWord = keyof typeof recordActs;
