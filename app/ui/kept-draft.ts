/** A save on its way: sent again as it is, under its key, until it is answered. */
export interface Save<T> {
  key: string;
  version: number;
  draft: T;
}

/** What of a draft the server does not have yet. */
export interface Unkept<T> {
  /** The version that the next save goes on from. */
  version: number;
  flying: Save<T> | null;
  /** Typed since, and not sent yet. */
  pending: T | null;
  /** What the server would not take: it goes along with the next change. */
  refused: T | null;
}

/** Puts two changes together where only what changed is sent; where whole drafts are, the newer one stands. */
export type Merge<T> = (older: T, newer: T) => T;
export const newest = <T>(_: T, newer: T): T => newer;

export const allKept = <T>(version: number): Unkept<T> => ({ version, flying: null, pending: null, refused: null });
export const isLeft = <T>({ flying, pending }: Unkept<T>): boolean => flying !== null || pending !== null;

/** Something was typed. */
export function typed<T>(k: Unkept<T>, draft: T, merge: Merge<T> = newest): Unkept<T> {
  const older = k.pending ?? k.refused;
  return { ...k, refused: null, pending: older ? merge(older, draft) : draft };
}

/** The next save leaves: the same as before, under the same key, where its answer never came. */
export function launched<T>(k: Unkept<T>, key: string): Unkept<T> & { flying: Save<T> } {
  if (k.flying) return { ...k, flying: k.flying };
  if (k.pending === null) throw new Error("There is nothing to save.");
  return { ...k, flying: { key, version: k.version, draft: k.pending }, pending: null };
}

/** The server has it, as this version. */
export const landed = <T>(k: Unkept<T>, version: number): Unkept<T> => ({ ...k, flying: null, version });

/** The server would not take it. A change goes along with the next one; of whole drafts the next one says all. */
export function turnedAway<T>(k: Unkept<T>, merge: Merge<T> | undefined): Unkept<T> {
  const landed = { ...k, flying: null };
  if (!merge || !k.flying) return landed;
  return k.pending === null
    ? { ...landed, refused: k.flying.draft }
    : { ...landed, pending: merge(k.flying.draft, k.pending) };
}

/** Somebody else saved: what was sent stands before what was typed since, until the person chooses. */
export function outdated<T>(k: Unkept<T>, merge: Merge<T> = newest): Unkept<T> {
  const sent = k.flying?.draft ?? null;
  return { ...k, flying: null, pending: sent && k.pending ? merge(sent, k.pending) : (k.pending ?? sent) };
}

/** What a device keeps of it; null for nothing. */
export const copyOf = <T>({ flying, pending, refused, version }: Unkept<T>) =>
  flying || pending || refused ? { flying, pending: pending ?? refused, version } : null;
export type Copy<T> = NonNullable<ReturnType<typeof copyOf<T>>>;

/** What was kept on a device before a crash, and all of it as one draft. */
export function restored<T>(
  copy: Copy<T> | null,
  version: number,
  merge: Merge<T> = newest,
): { unkept: Unkept<T>; draft: T } | null {
  if (!copy || (!copy.flying && !copy.pending)) return null;
  const unkept = {
    version: copy.version ?? version,
    flying: copy.flying ?? null,
    pending: copy.pending ?? null,
    refused: null,
  };
  return { unkept, draft: outdated(unkept, merge).pending! };
}
