import { useRef, useState } from "react";

type Acts = Record<string, (...args: never[]) => unknown>;

/** Functions that stay the same from one drawing to the next and run the latest: parts that take them need no new drawing. */
export function useStable<T extends Acts>(acts: T): T {
  const latest = useRef(acts);
  latest.current = acts;
  const [stable] = useState(
    () =>
      Object.fromEntries(
        Object.keys(acts).map((name) => [name, (...args: never[]) => latest.current[name]!(...args)]),
      ) as T, // of each act one of the same name that calls it
  );
  return stable;
}
