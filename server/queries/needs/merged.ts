import { laterOf } from "../../../core/calendar/day";
import { stock } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import type { Need, Part } from "./need";
import { type Ground, withSource } from "./plan";
import { type Pair, pairKey } from "./positions";

export const readMerged = (db: Db): Pair[] => sql<Pair>(db, "SELECT item, store FROM merged_need").all();

const partOf = (n: Need): Part => ({
  key: n.key,
  source: n.source,
  wanted: n.wanted,
  neededOn: n.neededOn,
  by: n.requisition
    ? `${n.requisition.number}, ${n.requisition.asker}`
    : (n.forJob ?? n.noted?.by ?? (n.stock ? "below its reorder point" : "")),
  href: n.requisition ? `/requisitions/${n.requisition.id}` : null,
});

/**
 * Needs of one item at one store as one row: their quantities together, rounded to packs once, by the earliest of their
 * days, with the supplier of the first that has one. A pair with a single need stays as it is.
 */
export function withMerged(g: Ground, needs: readonly Need[], pairs: readonly Pair[]): Need[] {
  if (pairs.length === 0) return [...needs];
  const wanted = new Set(pairs.map(pairKey));
  const groups = new Map<string, Need[]>();
  const rest: Need[] = [];
  for (const n of needs) {
    const key = n.item === null ? "" : pairKey({ item: n.item, store: n.store });
    if (!wanted.has(key)) rest.push(n);
    else groups.set(key, [...(groups.get(key) ?? []), n]);
  }
  for (const group of groups.values()) rest.push(group.length === 1 ? group[0]! : mergedOf(g, group));
  return rest;
}

function mergedOf(g: Ground, group: readonly Need[]): Need {
  const first = [...group].sort((a, b) => (a.neededOn < b.neededOn ? -1 : 1))[0]!;
  const sold = group.find((n) => n.supplier) ?? first;
  const runsOut = group.map((n) => n.runsOut ?? (n.source === "reorder" ? null : n.neededOn)).filter((d) => d !== null);
  const all: Need = {
    ...first,
    key: `m:${first.item}:${first.store}`,
    parts: group.map(partOf),
    stock: group.find((n) => n.key.startsWith("s:"))?.stock ?? first.stock,
    runsOut: runsOut.length ? runsOut.reduce((a, b) => (laterOf(a, b) === a ? b : a)) : null,
    forJob: group.find((n) => n.forJob)?.forJob ?? null,
    wanted: stock(group.reduce((a, n) => a + n.wanted, 0)),
    requisition: null,
    noted: null,
    aboveMaximum: group.some((n) => n.aboveMaximum),
  };
  const source = sold.sourcing === null ? null : g.preferred(first.item!);
  return { ...withSource(g, { ...all, source: "reorder" }, source), source: first.source };
}
