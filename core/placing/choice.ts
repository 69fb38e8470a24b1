import type { SupplierId } from "../ids";
import type { PurchaseQty, StockQty } from "../numbers/quantity";
import { covers, leastBuy, type PlacedRow, type Placing, type RowPart } from "./problem";

/** What a person or a plan chose for a row, before it is worked out in packs. */
export interface Choice {
  supplier: SupplierId;
  /** Stock units of the row; null: all of it. */
  share: StockQty | null;
  /** Purchase units; null: the least that covers the share. */
  buy: PurchaseQty | null;
}

export type Choices = Readonly<Record<string, readonly Choice[]>>;

/** A choice in packs; null where the supplier does not sell it (any more). */
export function partOf(row: PlacedRow, choice: Choice): RowPart | null {
  const offer = row.offers.find((o) => o.supplier === choice.supplier);
  if (!offer) return null;
  return { supplier: choice.supplier, buy: choice.buy ?? leastBuy(offer, choice.share ?? row.wanted, row.stockUnit) };
}

/** All choices in packs. */
export function placingFrom(rows: readonly PlacedRow[], choices: Choices): Placing {
  const placing: Record<string, RowPart[]> = {};
  for (const row of rows) {
    const parts = (choices[row.id] ?? []).map((c) => partOf(row, c)).filter((p) => p !== null);
    if (parts.length) placing[row.id] = parts;
  }
  return placing;
}

/**
 * A plan's parts as choices that stand for exactly these parts: shares add up to the need, the largest part takes the rest,
 * and a quantity is kept where it is not the least that covers its share.
 */
export function choicesFrom(row: PlacedRow, parts: readonly RowPart[]): Choice[] {
  const sold = (p: RowPart) => row.offers.find((o) => o.supplier === p.supplier)!;
  const bySize = [...parts].sort((a, b) => covers(sold(a), a.buy) - covers(sold(b), b.buy));
  let left: number = row.wanted;
  return bySize.map((part, i) => {
    const after = bySize.length - i - 1;
    // Each part after this one keeps a share of its own, however small.
    const share = (after === 0 ? left : Math.min(covers(sold(part), part.buy), left - after)) as StockQty;
    left -= share;
    const least = leastBuy(sold(part), share, row.stockUnit);
    return {
      supplier: part.supplier,
      share: bySize.length === 1 ? null : share,
      buy: least === part.buy ? null : part.buy,
    };
  });
}
