import type { SupplierId } from "../../../core/ids";
import type { PlacedRow, PlacingProblem, Terms } from "../../../core/placing/problem";

/** The suppliers across a bench: who sells most of the needs stands first. */
export function bySales(problem: Pick<PlacingProblem, "rows" | "suppliers">): Terms[] {
  const sells = new Map(
    problem.suppliers.map((s) => [s.id, problem.rows.filter((r) => r.offers.some((o) => o.supplier === s.id)).length]),
  );
  return [...problem.suppliers].sort((a, b) => sells.get(b.id)! - sells.get(a.id)! || a.name.localeCompare(b.name));
}

/**
 * The supplier to whom a choice moves by one step along those who sell the row; null at the end, and where the row is split.
 * From no choice it goes to the first on the side that it comes from.
 */
export function nextSupplier(
  suppliers: readonly Pick<Terms, "id">[],
  row: { offers: readonly Pick<PlacedRow["offers"][number], "supplier">[] },
  chosen: readonly { supplier: SupplierId }[],
  by: 1 | -1,
): number | null {
  if (chosen.length > 1) return null;
  const offered = suppliers.filter((s) => row.offers.some((o) => o.supplier === s.id));
  const from = offered.findIndex((s) => s.id === chosen[0]?.supplier);
  const to = from < 0 ? (by > 0 ? 0 : offered.length - 1) : from + by;
  return offered[to]?.id ?? null;
}
