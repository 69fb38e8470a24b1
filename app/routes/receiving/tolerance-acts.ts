import { dropTolerance, keepTolerance } from "../../../server/acts/receiving/keep-tolerance";
import type { PageActs } from "../../web/page";

export const toleranceActs = { keep: keepTolerance, drop: dropTolerance } satisfies PageActs;
export type ToleranceWord = keyof typeof toleranceActs;
