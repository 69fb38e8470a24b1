import { moneyText } from "../numbers/money";
import { hindrance, isUsable, type PlacedRow, type Placing, type PlacingProblem, termsOf } from "./problem";
import { reckonPlacing } from "./reckon";

/** A need that is placed nowhere, with why. */
export interface LeftOut {
  row: string;
  name: string;
  says: string;
}

/** Needs that no supplier can meet, and those that a placing leaves out besides, each with why. */
export function leftOut(p: PlacingProblem, placing: Placing | null = null): LeftOut[] {
  const terms = termsOf(p);
  return p.rows.flatMap((row) => {
    const says = hindrance(row, terms) ?? (placing && !placing[row.id]?.length ? underLeast(row, terms) : null);
    return says === null ? [] : [{ row: row.id, name: row.name, says }];
  });
}

function underLeast(row: PlacedRow, terms: ReturnType<typeof termsOf>): string {
  const offers = row.locked
    ? row.offers.filter((o) => row.locked!.some((l) => l.supplier === o.supplier))
    : row.offers.filter((o) => isUsable(o, terms));
  const names = offers.map((o) => terms.get(o.supplier)!.name).join(", ");
  return `${row.name} is left out: what can go to ${names}${row.locked ? ", where it is locked," : ""} does not come to their least order.`;
}

/**
 * Why no plan keeps every rule, from a placing that breaks as few order minimums as can be. A null placing means that
 * even this did not help.
 */
export function hindrancesOf(p: PlacingProblem, leastBroken: Placing | null): string[] {
  if (leastBroken === null) {
    const locked = p.rows.filter((r) => r.locked);
    return locked.length
      ? [`What is locked cannot be kept: ${namesOf(locked)}. Unlock it and work the plans out again.`]
      : ["The needs that may be split cannot be covered by what the suppliers sell."];
  }
  const terms = termsOf(p);
  return reckonPlacing(p, leastBroken).orders.flatMap((o) => {
    if (o.lacks === 0) return [];
    const bound = o.lines
      .map((l) => l.row)
      .filter(
        (row) => row.locked || row.offers.filter((x) => isUsable(x, terms)).every((x) => x.supplier === o.supplier),
      );
    const money = (minor: number) => `${moneyText({ minor, currency: o.terms.currency })} ${o.terms.currency}`;
    const why = bound.length ? `, and ${namesOf(bound)} can go nowhere else` : "";
    return [
      `${o.terms.name} takes no order under ${money(o.terms.minimum)}: these needs bring ${money(o.goods)} there${why}. Fill the order up, place it by hand, or set the need aside.`,
    ];
  });
}

const namesOf = (rows: readonly PlacedRow[]) =>
  rows.length > 3
    ? `${rows
        .slice(0, 2)
        .map((r) => r.name)
        .join(", ")} and ${rows.length - 2} more`
    : rows.map((r) => r.name).join(rows.length === 2 ? " and " : ", ");
