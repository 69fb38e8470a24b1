import type { JobId } from "../../../core/ids";
import { asAsked } from "../../../core/needs/reorder";
import { quantity, type Step, type Sum } from "../../../core/sums/sum";
import { type Db, sql } from "../../db/open";
import { readMerged, withMerged } from "./merged";
import type { Need, PlanFor } from "./need";
import { paperNeed, paperNeeds } from "./paper-needs";
import { comingBy, type Ground, groundOf, planPair, stockSum, unpacked } from "./plan";
import { type Pair, pairKey, readSource } from "./positions";

/** The pair that a key names, for needs of stock and merged ones. */
export function pairOf(key: string): Pair | null {
  const parts = /^[sm]:(\d{1,15}):(\d{1,15})$/.exec(key);
  return parts ? { item: Number(parts[1]), store: Number(parts[2]) } : null;
}

/**
 * One need as the file has it now, worked out anew; null where it is not there any more. Acts use this: what the pool
 * keeps may be older than the act's own transaction.
 */
export function needNow(db: Db, plan: PlanFor, key: string): Need | null {
  const g = groundOf(db, plan, false);
  const pair = pairOf(key);
  if (!pair) return paperNeed(g, key);
  if (key.startsWith("s:")) return planPair(g, pair);
  return withMerged(g, partsOf(g, pair), readMerged(db)).find((n) => n.key === key) ?? null;
}

/** Every need of a pair, before merging. */
export function partsOf(g: Ground, pair: Pair): Need[] {
  const own = planPair(g, pair);
  return [
    ...(own ? [own] : []),
    ...paperNeeds(g).filter((n) => n.item !== null && pairKey({ item: n.item, store: n.store }) === pairKey(pair)),
  ];
}

/** The worked calculation behind a need, with the supplier that the row shows. */
export function sumOf(db: Db, plan: PlanFor, need: Need): Sum {
  const g = groundOf(db, plan, false);
  const pair = pairOf(need.key);
  const source = need.sourcing === null ? null : readSource(db, need.sourcing);
  const packing = source?.packing ?? unpacked(need.stockUnit);
  if (need.key.startsWith("s:") && pair) {
    const found = stockSum(g, pair, source);
    if (found) return found.sum;
  }
  const store = sql<{ receives: number; region: string }>(db, "SELECT receives, region FROM store WHERE id = ?").get(
    need.store,
  )!;
  const way = comingBy(g, source, store);
  if (need.parts.length > 0) {
    const steps: Step[] = need.parts.map((p, i) => ({
      op: i === 0 ? "" : "+",
      label: p.by,
      figure: quantity(p.wanted, need.stockUnit),
      href: p.href ?? undefined,
    }));
    const together = asAsked(need.wanted, packing, need.stockUnit, need.neededOn, plan.asOf, way, "");
    return {
      title: "Why this much",
      steps: [
        ...steps,
        { op: "=", label: "together", figure: quantity(need.wanted, need.stockUnit) },
        ...together.sum.steps.slice(1),
      ],
    };
  }
  const [because, href] = askedBy(db, need);
  return asAsked(need.wanted, packing, need.stockUnit, need.neededOn, plan.asOf, way, because, href).sum;
}

function askedBy(db: Db, need: Need): [string, string | undefined] {
  if (need.requisition) return [`asked for by ${need.requisition.asker}`, `/requisitions/${need.requisition.id}`];
  if (need.forJob) {
    const demand = sql<{ job: JobId }>(db, "SELECT job FROM job_demand WHERE id = ?").get(need.key.slice(2));
    return [`lacking for ${need.forJob}`, demand ? `/jobs/${demand.job}` : "/jobs"];
  }
  switch (need.source) {
    case "floor":
      return [`counted on the shelf by ${need.noted?.by}`, undefined];
    case "ahead":
      return [`brought forward by ${need.noted?.by}`, undefined];
    case "repeat":
      return [`repeated by ${need.noted?.by}`, undefined];
    default:
      return [`from a file of ${need.noted?.by}`, undefined];
  }
}
