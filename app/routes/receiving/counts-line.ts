import type { CountLine } from "../../../server/queries/receiving/count-lines";
import type { PartTexts } from "./counting";

/** What a line’s counters do. */
export interface CountsLine {
  set: (index: number, part: Partial<PartTexts>) => void;
  step: (index: number, by: number) => void;
  here: () => void;
  next: () => void;
  another: () => void;
  remove: (index: number) => void;
}

/** What the fields of one part of a line’s count are given. */
export interface PartFields {
  line: CountLine;
  part: PartTexts;
  index: number;
  count: CountsLine;
  /** What is wrong with a part’s field, as it was sent. */
  problem: (index: number, field: string) => string | undefined;
}
