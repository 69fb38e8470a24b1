import { dropLabel, keepLabel } from "../../../server/acts/stock/keep-label";
import type { PageActs } from "../../web/page";

export const labelActs = { keep: keepLabel, drop: dropLabel } satisfies PageActs;
export type LabelWord = keyof typeof labelActs;
