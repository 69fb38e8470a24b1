import { addBins, keepBin, keepStowing, removeBin } from "../../../server/acts/stock/bins";
import type { PageActs } from "../../web/page";

export const binActs = { add: addBins, keep: keepBin, remove: removeBin, stowing: keepStowing } satisfies PageActs;
export type BinWord = keyof typeof binActs;
