import { useMemo, useState } from "react";
import { nameAt } from "../../ui/use-at";

interface Rows<R> {
  count: number;
  from: number;
  rows: readonly R[];
}

/**
 * The selected row of a sheet of which only a part is here. Where the list is read anew, the selection stays on its row as
 * far as it is among the first ones; the address names it.
 */
export function usePlace<R extends { key: string }>(
  sheet: Rows<R>,
  row: (index: number) => R | undefined,
  named: string | null,
): { place: number; here: R | null; setPlace: (index: number) => void } {
  const [chosen, setChosen] = useState<{ sheet: unknown; place: number }>({ sheet: null, place: 0 });
  const [lastKey, setLastKey] = useState<string | null>(named);
  const place = useMemo(() => {
    if (chosen.sheet === sheet) return Math.min(chosen.place, sheet.count - 1);
    const found = sheet.rows.findIndex((n) => n.key === lastKey);
    return found >= 0 ? sheet.from + found : sheet.count ? Math.min(chosen.place, sheet.count - 1) : -1;
  }, [chosen, sheet, lastKey]);
  return {
    place,
    here: place < 0 ? null : (row(place) ?? null),
    setPlace: (index) => {
      setChosen({ sheet, place: index });
      const key = row(index)?.key;
      if (!key) return;
      setLastKey(key);
      nameAt(key);
    },
  };
}
