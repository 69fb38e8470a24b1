/** What an order goes through (product.md). */
export const ORDER_STATES = [
  "Draft",
  "In sign-off",
  "Cleared",
  "With supplier",
  "Confirmed in part",
  "Confirmed",
  "Part in",
  "All in",
  "Closed short",
  "Cancelled",
] as const;
export type OrderState = (typeof ORDER_STATES)[number];

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

export type OrderMove = "edit" | "delete" | "cancel" | "submit" | "revise" | "place" | "receive" | "close";

/** An order that the supplier has, and that is not over. */
export const WITH_SUPPLIER = [
  "With supplier",
  "Confirmed in part",
  "Confirmed",
  "Part in",
] as const satisfies OrderState[];

/** What may be done to an order in each state. Who may do it is a matter of roles. */
const MOVES: Record<OrderState, readonly OrderMove[]> = {
  Draft: ["edit", "delete", "cancel", "submit"],
  // Signing and sending back is the process’s to decide: core/signoff/process.ts.
  "In sign-off": [],
  Cleared: ["place", "revise", "cancel"],
  "With supplier": ["receive", "close"],
  "Confirmed in part": ["receive", "close"],
  Confirmed: ["receive", "close"],
  "Part in": ["receive", "close"],
  "All in": [],
  "Closed short": [],
  Cancelled: [],
};

const REFUSALS: Record<OrderMove, string> = {
  edit: "can no longer be changed here",
  delete: "cannot be deleted any more; it stays in the books",
  cancel: "is already with the supplier, so it cannot be cancelled here",
  submit: "has been submitted already",
  revise: "is not waiting to be placed, so it cannot become a draft again",
  place: "cannot be placed",
  receive: "is not expected on the dock",
  close: "cannot be closed short",
};

/** Null where the move is open, else a sentence that says why not. */
export function refuses(state: OrderState, move: OrderMove, name: string): string | null {
  if (MOVES[state].includes(move)) return null;
  if (state === "In sign-off" && (move === "edit" || move === "delete")) {
    return `${name} is being signed off, and nobody can change it meanwhile.`;
  }
  return `${name} is ${state.toLowerCase()}: it ${REFUSALS[move]}.`;
}

interface Counted {
  /** Less what was closed short. */
  ordered: number;
  received: number;
}

/** The state that counting in has brought an order to. */
export function stateAfterReceipt(lines: readonly Counted[]): OrderState {
  if (lines.every((l) => l.received >= l.ordered)) return "All in";
  return lines.some((l) => l.received > 0) ? "Part in" : "With supplier";
}

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
