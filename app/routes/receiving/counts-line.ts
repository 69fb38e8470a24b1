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
