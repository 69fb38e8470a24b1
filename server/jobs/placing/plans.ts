import type { BenchId } from "../../../core/ids";
import { keysOf } from "../../../core/keys";
import { type LeftOut, leftOut } from "../../../core/placing/hinder";
import type { Measure } from "../../../core/placing/model";
import { type Placing, type PlacingProblem, preferredPlacing } from "../../../core/placing/problem";
import { inWorker } from "../crew";
import type { Standing } from "./solve";

/** The ways to place needs that are worked out (domain §6), with what each makes least, one after the other. */
export const AIMS = {
  lowest: ["cost"],
  "in time": ["late", "days late", "cost"],
  fewest: ["orders", "cost"],
} as const satisfies Record<string, readonly Measure[]>;
export type Aim = keyof typeof AIMS;
export const AIM_NAMES = keysOf(AIMS);

export interface Plan {
  aim: Aim;
  state: "waiting" | "working" | "proved" | "stopped" | "none";
  /** The best found so far. */
  placing: Placing | null;
  standing: Standing | null;
  seconds: number;
  /** Needs that it leaves out, each with why. */
  left: LeftOut[];
  /** Why there is none, or what keeps needs out of it. */
  why: string[];
}

/** The plans of one problem, as far as they are. */
export interface Plans {
  mark: string;
  plans: Plan[];
  working: boolean;
}

interface Kept extends Plans {
  stop: AbortController | null;
  /** A person stopped them, or nobody waits for them since the bench is another problem now. */
  stopped: "by hand" | "of before" | null;
}

/** A plan ends by itself after so many seconds, with the best found until then. */
const SECONDS = 120;
const KEPT = 12;
const kept = new Map<string, Kept>();
/** The problem whose plans a bench had worked out last. */
const ofBench = new Map<number, string>();

/** The plans of a problem, if somebody had them worked out. */
export const readPlans = (mark: string): Plans | null => kept.get(mark) ?? null;

/** Has the plans of a bench's problem worked out in a worker, one after the other; answers at once with what there is. */
export function beginPlans(
  bench: BenchId,
  mark: string,
  problem: PlacingProblem,
  { again = false, onFault = () => {} }: { again?: boolean; onFault?: (fault: unknown) => void } = {},
): Plans {
  const known = kept.get(mark);
  const last = ofBench.get(bench);
  if (last !== undefined && last !== mark) stopPlans(last, "of before");
  ofBench.set(bench, mark);
  // What a person stopped stays so until they want it again; what was only passed over is worked out anew.
  if (known && known.stopped !== "of before" && (known.working || !again)) return known;
  const plans: Kept = {
    mark,
    plans: AIM_NAMES.map((aim) => ({
      aim,
      state: "waiting",
      placing: null,
      standing: null,
      seconds: 0,
      left: [],
      why: [],
    })),
    working: true,
    stop: null,
    stopped: null,
  };
  kept.delete(mark);
  kept.set(mark, plans);
  for (const [old, k] of kept) if (kept.size > KEPT && !k.working) kept.delete(old);
  void workOut(plans, problem, onFault);
  return plans;
}

/** Stops the plans of a problem; what is found so far stays. */
export function stopPlans(mark: string, why: "by hand" | "of before" = "by hand"): void {
  const plans = kept.get(mark);
  if (!plans?.working) return;
  plans.stopped = why;
  plans.stop?.abort();
}

async function workOut(plans: Kept, problem: PlacingProblem, onFault: (fault: unknown) => void): Promise<void> {
  for (const plan of plans.plans) {
    if (plans.stopped) {
      plan.state = "stopped";
      continue;
    }
    plan.state = "working";
    plans.stop = new AbortController();
    try {
      const { solved, hindrances } = await inWorker(
        "place",
        { problem, measures: AIMS[plan.aim], seconds: SECONDS },
        {
          signal: plans.stop.signal,
          onPart: (part) => {
            if ("placing" in part) {
              plan.placing = part.placing;
              plan.left = leftOut(problem, part.placing);
            } else plan.standing = part.standing;
          },
        },
      );
      plan.placing = solved?.placing ?? null;
      plan.standing = solved?.stopped ?? null;
      plan.seconds = solved?.seconds ?? 0;
      plan.state = solved ? (solved.proved ? "proved" : "stopped") : "none";
      plan.left = leftOut(problem, plan.placing ?? {});
      plan.why = solved ? hindrances : [...new Set([...hindrances, ...plan.left.map((l) => l.says)])].slice(0, 3);
    } catch (fault) {
      plan.state = plan.placing ? "stopped" : "none";
      if (!plan.placing)
        plan.why = [
          plans.stopped
            ? "It was stopped before a plan was found."
            : "The solver failed; the other ways are not touched by it.",
        ];
      if (!plans.stopped) onFault(fault);
    }
  }
  plans.working = false;
}

/** A plan's placing by its name: the preferred suppliers need no solver. */
export function placingOfPlan(mark: string, problem: PlacingProblem, aim: Aim | "preferred"): Placing | null {
  if (aim === "preferred") return preferredPlacing(problem);
  return kept.get(mark)?.plans.find((p) => p.aim === aim)?.placing ?? null;
}
