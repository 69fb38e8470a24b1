import { inOrder } from "../text";

/** A bin of a store, as far as walking by it goes. */
export interface Bin {
  code: string;
  /** Its place on the walk; null: by its name, after those that have one. */
  walk: number | null;
  /** Why nothing more is put there; empty where goods may be. */
  closed: string;
}

/** Where what was counted in lies until it is stowed: the bin without a name. */
export const DOCK = "";

/** A bin in words: by itself, and as the place where something lies. */
export const binWords = (bin: string): string => (bin === DOCK ? "dock" : bin);
export const inBin = (bin: string): string => (bin === DOCK ? "on the dock" : `in ${bin}`);

/** Codes as people count: A2 before A10. */
export function naturally(a: string, b: string): number {
  const parts = (s: string): readonly string[] => s.toUpperCase().match(/\d+|\D+/g) ?? [];
  const left = parts(a);
  const right = parts(b);
  for (let i = 0; i < Math.min(left.length, right.length); i++) {
    const [x, y] = [left[i]!, right[i]!];
    const numbers = /^\d/.test(x) && /^\d/.test(y);
    const by = numbers ? Number(x) - Number(y) || x.length - y.length : inOrder(x, y);
    if (by !== 0) return by;
  }
  return left.length - right.length;
}

/** The order in which one walks by bins: those with a place by it, then by name; the dock first. */
export const alongTheWalk = (a: Pick<Bin, "code" | "walk">, b: Pick<Bin, "code" | "walk">): number =>
  Number(a.code !== DOCK) - Number(b.code !== DOCK) ||
  (a.walk ?? Number.POSITIVE_INFINITY) - (b.walk ?? Number.POSITIVE_INFINITY) ||
  naturally(a.code, b.code);

/** Does a bin lie within a range of names? An end that is not named is open. */
export const withinBins = (code: string, from: string, to: string): boolean =>
  (from === "" || naturally(code, from) >= 0) && (to === "" || naturally(code, to) <= 0);

/** At most so many bins are made at once. */
const MOST = 500;

/** The bins of a range: one code, or from one number to another: "A1 to A12", "B-01 to B-20". Null where it is none. */
export function binRange(from: string, to: string): string[] | null {
  if (to === "" || to === from) return [from];
  const [a, b] = [from, to].map((s) => /^(.*?)(\d{1,6})$/.exec(s));
  if (!a || !b || a[1]!.toUpperCase() !== b[1]!.toUpperCase()) return null;
  const [start, end] = [Number(a[2]), Number(b[2])];
  if (end < start || end - start >= MOST) return null;
  const width = a[2]!.startsWith("0") ? a[2]!.length : 1;
  return Array.from({ length: end - start + 1 }, (_, i) => `${a[1]}${String(start + i).padStart(width, "0")}`);
}

/** Why a bin is where goods go. */
export type StowWhy =
  | "ordered for it"
  | "its own bin"
  | "the same lot lies there"
  | "it lies there, too"
  | "theirs go there"
  | "no bin yet";

/** Where goods of the dock go: what the order says, the item's own bin, else where the same goods lie (domain-goods §12). */
export function stowInto(
  candidates: { ordered: string; own: string; sameLot: string; same: string },
  open: (bin: string) => boolean,
): { bin: string; why: StowWhy } {
  const ways: [string, StowWhy][] = [
    [candidates.ordered, "ordered for it"],
    [candidates.own, "its own bin"],
    [candidates.sameLot, "the same lot lies there"],
    [candidates.same, "it lies there, too"],
  ];
  const [bin, why] = ways.find(([b]) => b !== DOCK && open(b)) ?? [DOCK, "no bin yet" as const];
  return { bin, why };
}
