import { moneyText } from "../numbers/money";
import { hindrance, isUsable, type PlacedRow, type Placing, type Problem, termsOf } from "./problem";
import { reckonPlacing } from "./reckon";

/** Needs that no supplier can meet, each with why: a plan leaves them out. */
export function leftOut(p: Problem): { row: string; says: string }[] {
  const terms = termsOf(p);
  return p.rows.flatMap((row) => {
    const says = hindrance(row, terms);
    return says === null ? [] : [{ row: row.id, says }];
  });
}

/**
 * Why no plan keeps every rule, from a placing that breaks as few order minimums as can be. A null placing means that
 * even this did not help.
 */
export function hindrancesOf(p: Problem, leastBroken: Placing | null): string[] {
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
