/** What a requisition goes through (product.md). */
export const REQUISITION_STATES = [
  "Draft",
  "In sign-off",
  "Open",
  "Part ordered",
  "Ordered",
  "Met",
  "Declined",
  "Withdrawn",
] as const;
export type RequisitionState = (typeof REQUISITION_STATES)[number];

interface Asked {
  /** Dropped lines no longer count for what is left to do. */
  dropped: boolean;
  ordered: boolean;
  /** A part of it is ordered. */
  begun?: boolean;
  met: boolean;
}

/** The state of a requisition once it is open, from what became of its lines. */
export function stateOfRequisition(lines: readonly Asked[]): RequisitionState {
  const live = lines.filter((l) => !l.dropped);
  if (live.length === 0) return "Declined";
  if (live.every((l) => l.met)) return "Met";
  if (live.every((l) => l.ordered || l.met)) return "Ordered";
  return live.some((l) => l.ordered || l.begun || l.met) ? "Part ordered" : "Open";
}
