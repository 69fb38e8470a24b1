import type { First } from "./agreement";

/** Why goods of a supplier became ours, or stopped being so. */
export const USED_AS = ["used", "became ours", "lost", "bought at the end", "taken back"] as const;
export type UsedAs = (typeof USED_AS)[number];

export const USED_WORDS: Record<UsedAs, string> = {
  used: "used",
  "became ours": "became ours by its age",
  lost: "lost, we bear it",
  "bought at the end": "bought at the end",
  "taken back": "taken back",
};

/** What a use takes: of our own stock, and of each supplier's. Stock units. */
export interface Split {
  ours: number;
  theirs: { owner: number; quantity: number }[];
}

/** Goods of one supplier that may be used here, and when the oldest of them was registered. */
export interface TheirsHere {
  owner: number;
  first: First;
  quantity: number;
  oldest: string;
}

/**
 * Whose goods a use takes: suppliers whose goods go first, the oldest registered first; then ours; then those after ours.
 * Null where it is more than all of them.
 */
export function splitUse(ours: number, theirs: readonly TheirsHere[], quantity: number): Split | null {
  const split: Split = { ours: 0, theirs: [] };
  let rest = quantity;
  const take = (of: readonly TheirsHere[]) => {
    for (const t of of.toSorted((a, b) => (a.oldest < b.oldest ? -1 : a.oldest > b.oldest ? 1 : a.owner - b.owner))) {
      const part = Math.min(rest, t.quantity);
      if (part > 0) split.theirs.push({ owner: t.owner, quantity: part });
      rest -= part;
    }
  };
  take(theirs.filter((t) => t.first === "theirs"));
  split.ours = Math.max(0, Math.min(rest, ours));
  rest -= split.ours;
  take(theirs.filter((t) => t.first === "ours"));
  return rest > 0 ? null : split;
}
