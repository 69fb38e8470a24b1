import { useCallback } from "react";
import { type ShouldRevalidateFunctionArgs, useSearchParams } from "react-router";

/** The selected row, kept in the address so that it can be sent to a colleague; the first row where none is named. */
export function useAt(first: string | null): [string | null, (key: string) => void] {
  const [search, setSearch] = useSearchParams();
  const at = search.get("at") ?? first;
  const setAt = useCallback(
    (key: string) =>
      setSearch(
        (s) => {
          s.set("at", key);
          return s;
        },
        { replace: true, preventScrollReset: true },
      ),
    [setSearch],
  );
  return [at, setAt];
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
