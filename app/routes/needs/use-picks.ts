import { useEffect, useState } from "react";
import { parseQuantity, quantityText } from "../../../core/numbers/quantity";
import type { NeedRow as Row } from "../../../server/read/needs/needs";

const STORAGE = "wharf.needs.picks";
interface Picks {
  ticked: string[];
  quantities: Record<string, string>;
}
const nothing: Picks = { ticked: [], quantities: {} };

/** What this person has ticked and typed in Needs: kept in this browser, so that leaving and reloading lose nothing. */
export function usePicks(rows: readonly Row[]) {
  const [picks, setPicks] = useState<Picks>(nothing);
  const [read, setRead] = useState(false);
  useEffect(() => {
    try {
      setPicks({ ...nothing, ...(JSON.parse(sessionStorage.getItem(STORAGE) ?? "{}") as Partial<Picks>) });
    } catch {
      setPicks(nothing);
    }
    setRead(true);
  }, []);
  useEffect(() => {
    if (read) sessionStorage.setItem(STORAGE, JSON.stringify(picks));
  }, [picks, read]);
  const byKey = new Map(rows.map((r) => [r.key, r]));
  const quantity = (key: string) => picks.quantities[key] ?? quantityText(byKey.get(key)?.buy ?? 0);
  return {
    ticked: new Set(picks.ticked.filter((k) => byKey.has(k))),
    quantity,
    toggle: (key: string) =>
      setPicks((p) => ({
        ...p,
        ticked: p.ticked.includes(key) ? p.ticked.filter((k) => k !== key) : [...p.ticked, key],
      })),
    setQuantity: (key: string, text: string) =>
      setPicks((p) => ({ ...p, quantities: { ...p.quantities, [key]: text } })),
    /** Net amount in home currency at the proposed quantity's price; an estimate until the order is priced. */
    homeAmount(row: Row): number {
      if (row.homeAmount === null) return 0;
      const typed = parseQuantity(quantity(row.key));
      if (!typed.ok || typed.value === row.buy || row.buy === 0) return row.homeAmount;
      return Number((BigInt(row.homeAmount) * BigInt(typed.value) + BigInt(Math.trunc(row.buy / 2))) / BigInt(row.buy));
    },
  };
}
