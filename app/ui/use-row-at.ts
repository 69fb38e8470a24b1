import { useEffect, useState } from "react";
import { nameAt } from "./use-at";

/** The selected row of a list of which only a part is here; the address names it. */
export function useRowAt<R extends { id: number }>(
  sheet: { count: number; place: number | null },
  row: (index: number) => R | undefined,
): { at: number; here: R | null; setPlace: (index: number) => void } {
  const [place, setPlace] = useState(sheet.place ?? 0);
  // The same rows read anew say where the row of the old address stands: the selection has moved on since, and stays.
  useEffect(() => setPlace((now) => sheet.place ?? now), [sheet.place]);
  const at = Math.min(place, sheet.count - 1);
  return {
    at,
    here: at < 0 ? null : (row(at) ?? null),
    setPlace: (index) => {
      setPlace(index);
      const id = row(index)?.id;
      if (id) nameAt(String(id));
    },
  };
}
