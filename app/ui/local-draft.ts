/**
 * What this browser keeps of unfinished work. A device may be full or forbid it: then the work in hand goes on, and only does
 * not survive a reload.
 */
export function readLocal<T>(name: string): T | null {
  try {
    return JSON.parse(localStorage.getItem(name) ?? "null") as T | null; // ours: kept by writeLocal under the same name
  } catch {
    return null; // not ours: begin anew
  }
}

/** Keeps it; null takes it away. */
export function writeLocal(name: string, value: unknown): void {
  try {
    if (value === null) localStorage.removeItem(name);
    else localStorage.setItem(name, JSON.stringify(value));
  } catch {
    // see above
  }
}

/** A draft of one version of a paper. */
export interface Versioned<T> {
  version: number;
  draft: T;
}

/** What was kept of a paper: of the version that is shown now, or of one that has passed meanwhile. */
export function sortDraft<T>(kept: Versioned<T> | null, version: number): { now: T | null; past: T | null } {
  if (!kept || typeof kept !== "object" || !("draft" in kept)) return { now: null, past: null };
  return kept.version === version ? { now: kept.draft, past: null } : { now: null, past: kept.draft };
}
