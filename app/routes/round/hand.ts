import type { StoreId } from "../../../core/ids";
import { ONE, parseQuantity } from "../../../core/numbers/quantity";
import type { KnownItem } from "../../../server/queries/needs/round";
import { itemsOf, type RoundLine } from "./use-round";

/** In which unit it is counted: so many ten-thousandths of the stock unit. */
export interface CountingUnit {
  name: string;
  factor: number;
}
/** What whoever walks the floor has in hand: a code that was scanned, and what is typed of it. */
export interface Hand {
  code: string;
  /** Null where nobody knows the code yet. */
  item: KnownItem | null;
  quantity: string;
  unit: CountingUnit;
  note: string;
}
/** Where a round stands: something in hand, or several items of which one is meant, and what was said last. */
export interface Walking {
  hand: Hand | null;
  several: readonly KnownItem[];
  heard: string | null;
}
export const AT_THE_SHELF: Walking = { hand: null, several: [], heard: null };

export const unitsToCount = (item: KnownItem): CountingUnit[] => [{ name: item.unit, factor: ONE }, ...item.units];

const LONGEST_CODE = 60;
/** A scanner's code is not shorter; what is shorter in the quantity is a quantity. */
const SHORTEST_SCAN = 6;

export const takeUp = (code: string, item: KnownItem | null, heard: string | null = null): Walking => ({
  hand: { code, item, quantity: "", unit: { name: item?.unit ?? "", factor: ONE }, note: "" },
  several: [],
  heard,
});

/** A code was scanned or typed. */
export function scanned(walking: Walking, known: readonly KnownItem[], text: string): Walking {
  const code = text.trim().slice(0, LONGEST_CODE);
  if (!code) return walking;
  const found = itemsOf(known, code);
  return found.length > 1
    ? { hand: null, several: found, heard: "Several items have this code. Which one is it?" }
    : takeUp(code, found[0] ?? null);
}

/** What is in hand is noted as a line, and the next is awaited; or what has to be looked at again. */
export function noted(
  walking: Walking,
  known: readonly KnownItem[],
  store: StoreId,
): { walking: Walking; line?: Omit<RoundLine, "key" | "state">; again?: true } {
  const { hand } = walking;
  if (!hand) return { walking };
  const { item, unit, note } = hand;
  const quantity = hand.quantity.trim();
  // A scanner goes on scanning whatever has the focus: a known code in the quantity is the next item.
  const [next, ...more] = quantity.length >= SHORTEST_SCAN ? itemsOf(known, quantity) : [];
  if (next && more.length === 0 && next.id !== item?.id)
    return { walking: takeUp(quantity, next, `${item?.name ?? hand.code} was left without a quantity.`) };
  const parsed = parseQuantity(quantity);
  if (!parsed.ok) return { walking: { ...walking, heard: parsed.says }, again: true };
  const line = {
    store,
    quantity,
    note,
    ...(item
      ? { code: item.code, name: item.name, unit: unit.name, factor: unit.factor }
      : { code: hand.code, name: `unknown: ${hand.code}`, unit: "" }),
  };
  const heard = `${item?.name ?? hand.code}: ${[quantity, unit.name].filter(Boolean).join(" ")} noted`;
  return { walking: { ...AT_THE_SHELF, heard }, line };
}
