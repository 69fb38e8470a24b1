import type { StockQty } from "../numbers/quantity";
import type { Policy, Reordering } from "./reorder";

/** How a whole run decides how much: each pair's own policy, or one rule for all of them. */
export const RUNS = ["usual", "jobs", "point", "lots", "level"] as const;
export type Run = (typeof RUNS)[number];

export const RUN_WORDS: Record<Run, string> = {
  usual: "each item’s own policy",
  jobs: "only what jobs lack",
  point: "bring to the reorder point",
  lots: "usual lots",
  level: "up to level",
};

/** What is set for an item at a store. */
export interface Settings {
  policy: Policy["kind"];
  reorderPoint: StockQty;
  lot: StockQty;
  level: StockQty;
  coverDays: number;
  /** Issues of the last 30 days. */
  used30: StockQty;
  maximum: StockQty | null;
  reviewDays: number;
}

function policyOf(kind: Policy["kind"], s: Settings): Policy {
  switch (kind) {
    case "top up":
      return { kind, level: s.level };
    case "fixed lot":
    case "larger of":
      return { kind, lot: s.lot };
    case "days of cover":
      return { kind, days: s.coverDays, used30: s.used30 };
    case "shortfall":
    case "to order":
      return { kind };
  }
}

/** The policy of a pair in a run. A run of lots or levels leaves a pair that has none to its own policy. */
export function reorderingFor(run: Run, s: Settings): Reordering {
  const kind: Policy["kind"] =
    run === "jobs"
      ? "to order"
      : run === "point"
        ? "shortfall"
        : run === "lots" && s.lot > 0
          ? "fixed lot"
          : run === "level" && s.level > 0
            ? "top up"
            : s.policy;
  return {
    policy: policyOf(kind, s),
    reorderPoint: s.reorderPoint,
    maximum: s.maximum,
    reviewDays: s.reviewDays,
  };
}

/** What is wrong with the settings of a pair, as [field, sentence]; null where they can work. */
export function faultOf(s: Omit<Settings, "used30">): [string, string] | null {
  if ((s.policy === "fixed lot" || s.policy === "larger of") && s.lot <= 0) {
    return ["lot", `The policy “${s.policy}” needs a lot above zero.`];
  }
  if (s.policy === "top up" && s.level <= 0) return ["level", "The policy “top up” needs a level above zero."];
  if (s.policy === "top up" && s.level < s.reorderPoint) {
    return ["level", "The level lies below the reorder point, so topping up would never reach it."];
  }
  if (s.policy === "days of cover" && s.coverDays <= 0) {
    return ["cover_days", "The policy “days of cover” needs a number of days above zero."];
  }
  if (s.maximum !== null && s.maximum < s.reorderPoint) {
    return ["maximum", "The most the store should hold lies below the reorder point."];
  }
  return null;
}
