import { useMemo, useSyncExternalStore } from "react";
import { useSearchParams } from "react-router";
import { withParts } from "./use-at";

/** The address that was asked for last, as long as the page still stands at the one before. */
let ahead: { from: string; to: string } | null = null;
const listeners = new Set<() => void>();
const listen = (l: () => void) => {
  listeners.add(l);
  return () => listeners.delete(l);
};

/**
 * Changes parts of the address; the page follows it. `search` is already the next one, so that a box that was ticked is
 * ticked while the page is still being read, and a second change goes on from the first instead of cutting it short.
 */
export function useAddress() {
  const [search, setSearch] = useSearchParams();
  const now = search.toString();
  const asked = useSyncExternalStore(
    listen,
    () => ahead,
    () => null,
  );
  const next = asked?.from === now ? new URLSearchParams(asked.to) : search;
  return {
    search: next,
    /** The values of a part that holds several. */
    list: (name: string) => (next.get(name) ?? "").split(",").filter(Boolean),
    put: (parts: Record<string, string | null>) => {
      const before = ahead?.from === now ? ahead.to : now;
      const to = withParts({ ...parts, at: null })(new URLSearchParams(before));
      ahead = { from: now, to: to.toString() };
      for (const l of listeners) l();
      setSearch(to, { replace: true, preventScrollReset: true });
    },
  };
}

/** What an address asks for, without what only says where the page looks: it is the same for all rows. */
export function useAskedFor(): string {
  const [search] = useSearchParams();
  return useMemo(() => {
    const rest = new URLSearchParams(search);
    for (const part of ["at", "cols"]) rest.delete(part);
    return rest.toString();
  }, [search]);
}

/** How a list is sorted once the head of a column is pressed: up, down, and where `thrice` is said as it was. */
export function sortedNext(
  sort: { column: string; down: boolean } | null,
  column: string,
  thrice = false,
): string | null {
  if (sort?.column !== column) return column;
  if (!sort.down) return `-${column}`;
  return thrice ? null : column;
}
