/** How far an order has got. What the supplier answered, and what came, are facts beside it. */
export const ORDER_STAGES = ["draft", "in sign-off", "cleared", "placed", "closed", "cancelled"] as const;
export type OrderStage = (typeof ORDER_STAGES)[number];

/** The words for where an order stands (product.md). */
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

/** What a line that brings goods tells of its order; quantities in purchase units. */
export interface LineFacts {
  /** The supplier's word on it was taken. */
  answered: boolean;
  ordered: number;
  received: number;
  /** Of what was ordered, what will not come any more. */
  closedShort: number;
}
export interface OrderFacts {
  stage: OrderStage;
  /** Somebody closed it, with a reason, before all was in. */
  closedByHand: boolean;
  lines: readonly LineFacts[];
}

/** Of so many, how many: a fact that holds for nothing, a part, or all. */
export type Share = "none" | "part" | "all";
const shareOf = <T>(all: readonly T[], holds: (one: T) => boolean): Share => {
  const n = all.filter(holds).length;
  return n === 0 ? "none" : n === all.length ? "all" : "part";
};

const live = (lines: readonly LineFacts[]) => lines.filter((l) => l.ordered > l.closedShort);

/** How much of an order the supplier has answered. */
export const answeredOf = (lines: readonly LineFacts[]): Share => shareOf(live(lines), (l) => l.answered);

/** How much of an order has come: a line that has come in part makes it a part. */
export function receivedOf(lines: readonly LineFacts[]): Share {
  const whole = shareOf(live(lines), (l) => l.received >= l.ordered - l.closedShort);
  return whole === "none" && lines.some((l) => l.received > 0) ? "part" : whole;
}

/**
 * How much of what came of an order is invoiced: a line counts once all that came of it is. Charges come with their order.
 * An order that is closed and wholly invoiced is settled.
 */
export const invoicedOf = (lines: readonly { received: number; invoiced: number }[]): Share => {
  const came = lines.filter((l) => l.received > 0);
  const whole = shareOf(came, (l) => l.invoiced >= l.received);
  return whole === "none" && lines.some((l) => l.invoiced > 0) ? "part" : whole;
};

/** A placed order of which nothing is to come any more is closed by itself; one that is open again is placed. */
export const stageAfter = (facts: OrderFacts): OrderStage =>
  (facts.stage !== "placed" && facts.stage !== "closed") || facts.closedByHand
    ? facts.stage
    : receivedOf(facts.lines) === "all"
      ? "closed"
      : "placed";

/** The words for where an order stands. */
export function orderStatus(facts: OrderFacts): OrderState {
  switch (facts.stage) {
    case "draft":
      return "Draft";
    case "in sign-off":
      return "In sign-off";
    case "cleared":
      return "Cleared";
    case "cancelled":
      return "Cancelled";
    case "closed":
      return facts.closedByHand ? "Closed short" : "All in";
    case "placed": {
      if (receivedOf(facts.lines) !== "none") return "Part in";
      const answered = answeredOf(facts.lines);
      return answered === "all" ? "Confirmed" : answered === "part" ? "Confirmed in part" : "With supplier";
    }
  }
}

export type OrderMove = "edit" | "delete" | "cancel" | "submit" | "revise" | "place" | "receive" | "close";

/** What may be done to an order at each stage. Who may do it is a matter of roles. */
const MOVES: Record<OrderStage, readonly OrderMove[]> = {
  draft: ["edit", "delete", "cancel", "submit"],
  // Signing and sending back is the process’s to decide: core/signoff/process.ts.
  "in sign-off": [],
  cleared: ["place", "revise", "cancel"],
  placed: ["receive", "close"],
  closed: [],
  cancelled: [],
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
export function refuses(order: { stage: OrderStage; state: OrderState; name: string }, move: OrderMove): string | null {
  if (MOVES[order.stage].includes(move)) return null;
  if (order.stage === "in sign-off" && (move === "edit" || move === "delete")) {
    return `${order.name} is being signed off, and nobody can change it meanwhile.`;
  }
  return `${order.name} is ${order.state.toLowerCase()}: it ${REFUSALS[move]}.`;
}
