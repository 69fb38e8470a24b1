import { useCallback, useEffect, useRef, useState } from "react";
import { type ShouldRevalidateFunctionArgs, useSearchParams } from "react-router";

/**
 * The selected row, kept in the address so that it can be sent to a colleague; the first row where none is named. The
 * selection moves at once, as fast as keys are pressed; the address follows when they rest. Only where the page `reads`
 * something for the row is that a step of the router: else it would cut short what was just sent.
 */
export function useAt(first: string | null, reads = false): [string | null, (key: string) => void] {
  const [search, setSearch] = useSearchParams();
  const named = search.get("at");
  const [chosen, setChosen] = useState(named);
  const writing = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    clearTimeout(writing.current);
    setChosen(named); // somebody came by another address
  }, [named]);
  useEffect(() => () => clearTimeout(writing.current), []);
  const setAt = useCallback(
    (key: string) => {
      setChosen(key);
      clearTimeout(writing.current);
      writing.current = setTimeout(() => {
        if (reads) {
          setSearch(withParts({ at: key }), { replace: true, preventScrollReset: true });
          return;
        }
        nameAt(key);
      }, 120);
    },
    [setSearch, reads],
  );
  return [chosen ?? first, setAt];
}

/** Names the selected row in the address, without a step of the router. */
export function nameAt(key: string): void {
  const address = new URL(location.href);
  address.searchParams.set("at", key);
  history.replaceState(history.state, "", address);
}

/** Changes parts of the address for setSearchParams; null takes a part away. */
export const withParts = (parts: Record<string, string | null>) => (search: URLSearchParams) => {
  for (const [name, value] of Object.entries(parts)) {
    if (value === null) search.delete(name);
    else search.set(name, value);
  }
  return search;
};

/** Moving over rows and changing the cut read nothing anew: only acts, and other pages, do. */
export function unlessOnlyLooking({
  currentUrl,
  nextUrl,
  formMethod,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs): boolean {
  const looking =
    currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search && formMethod === undefined;
  return looking ? false : defaultShouldRevalidate;
}
