import { ONE, quantityText } from "../numbers/quantity";
import { amount, type Step, type Sum } from "../sums/sum";
import { covers, type PlacedRow, type Placing, type PlacingProblem, termsOf } from "./problem";
import { type Reckoned, type ReckonedLine, type ReckonedOrder, reckonPlacing } from "./reckon";

/** One thing that a plan does otherwise than the preferred suppliers, and what it adds to the cost. */
export interface Move {
  kind: "moved" | "price" | "freight" | "draft";
  /** The row it is about; null for freight. */
  row: string | null;
  says: string;
  /** Home currency; below zero saves. */
  adds: number;
}

/**
 * Everything in which one placing costs other than another. The moves add up to the difference exactly: each row's goods,
 * each order's freight, and what joining does to lines that stood on a draft.
 */
export function movesBetween(p: PlacingProblem, from: Placing, to: Placing): Move[] {
  const before = reckonPlacing(p, from);
  const after = reckonPlacing(p, to);
  const moves: Move[] = [];
  const was = linesByRow(before);
  const is = linesByRow(after);
  for (const row of p.rows) {
    const a = was.get(row.id) ?? [];
    const b = is.get(row.id) ?? [];
    const adds = costOf(b) - costOf(a);
    const same =
      a.length === b.length && a.every((l, i) => l.offer.supplier === b[i]!.offer.supplier && l.buy === b[i]!.buy);
    if (same && adds === 0) continue;
    moves.push({ kind: same ? "price" : "moved", row: row.id, says: saysOf(p, row, a, b, same), adds });
  }
  const orders = new Map([...before.orders, ...after.orders].map((o) => [o.key, o]));
  for (const [key, order] of orders) {
    const a = before.orders.find((o) => o.key === key) ?? null;
    const b = after.orders.find((o) => o.key === key) ?? null;
    const repriced = draftOf(b) - draftOf(a);
    if (repriced !== 0)
      moves.push({
        kind: "draft",
        row: null,
        says: `lines already on the draft to ${order.terms.name} change their break`,
        adds: repriced,
      });
    const freight = (b?.freightHome ?? 0) - (a?.freightHome ?? 0);
    if (freight !== 0) moves.push({ kind: "freight", row: null, says: freightSays(p, order, a, b), adds: freight });
  }
  return moves.sort((x, y) => x.adds - y.adds);
}

/** The difference as one writes it on paper; so many moves by name, the rest together. */
export function differenceSum(p: PlacingProblem, from: Placing, to: Placing, most = 12): Sum {
  const moves = movesBetween(p, from, to);
  const before = reckonPlacing(p, from).cost;
  const byWeight = [...moves].sort((a, b) => Math.abs(b.adds) - Math.abs(a.adds));
  const shown = new Set(moves.length > most ? byWeight.slice(0, most - 1) : moves);
  const step = (label: string, adds: number): Step => ({
    op: adds < 0 ? "−" : "+",
    label,
    figure: amount(Math.abs(adds), p.home),
  });
  const rest = moves.filter((m) => !shown.has(m));
  return {
    title: "Against the preferred suppliers",
    steps: [
      { op: "", label: "preferred suppliers", figure: amount(before, p.home) },
      ...moves.filter((m) => shown.has(m)).map((m) => step(m.says, m.adds)),
      ...(rest.length
        ? [
            step(
              `${rest.length} more moves`,
              rest.reduce((a, m) => a + m.adds, 0),
            ),
          ]
        : []),
      { op: "=", label: "this plan", figure: amount(before + moves.reduce((a, m) => a + m.adds, 0), p.home) },
    ],
  };
}

const costOf = (lines: readonly ReckonedLine[]) => lines.reduce((a, l) => a + (l.home ?? 0), 0);
const draftOf = (o: ReckonedOrder | null) => (o ? o.knownHome - costOf(o.lines) : 0);

function linesByRow(r: Reckoned): Map<string, ReckonedLine[]> {
  const by = new Map<string, ReckonedLine[]>();
  for (const l of r.orders.flatMap((o) => o.lines)) {
    const list = by.get(l.row.id);
    if (list) list.push(l);
    else by.set(l.row.id, [l]);
  }
  for (const list of by.values()) list.sort((a, b) => a.offer.supplier - b.offer.supplier);
  return by;
}

function saysOf(
  p: PlacingProblem,
  row: PlacedRow,
  a: readonly ReckonedLine[],
  b: readonly ReckonedLine[],
  same: boolean,
): string {
  const terms = termsOf(p);
  const name = (l: ReckonedLine) => terms.get(l.offer.supplier)!.name;
  if (b.length === 0) return `${row.name} is not placed`;
  const at = b.map((l) => {
    const from =
      l.level && l.offer.levels[l.level]!.from > ONE
        ? `, from ${quantityText(l.offer.levels[l.level]!.from)} ${l.offer.packing.unit}`
        : "";
    return `${name(l)}${from}`;
  });
  if (same) return `${row.name}: another break at ${at.join(" and ")}`;
  if (a.length === 0) return `${row.name} at ${at.join(" and ")}`;
  const stays = a.length === 1 && b.length === 1 && a[0]!.offer.supplier === b[0]!.offer.supplier;
  const bought = (lines: readonly ReckonedLine[]) => lines.reduce((n, l) => n + covers(l.offer, l.buy), 0);
  const other =
    bought(a) === bought(b)
      ? ""
      : `: ${quantityText(bought(b))} instead of ${quantityText(bought(a))} ${row.stockUnit}`;
  return stays
    ? `${row.name}: ${quantityText(b[0]!.buy)} instead of ${quantityText(a[0]!.buy)} ${b[0]!.offer.packing.unit} at ${at[0]}`
    : `${row.name} to ${at.join(" and ")}${other}`;
}

function freightSays(
  p: PlacingProblem,
  order: ReckonedOrder,
  a: ReckonedOrder | null,
  b: ReckonedOrder | null,
): string {
  const several = Object.keys(p.stores).length > 1 ? `, ${p.stores[order.store]}` : "";
  const name = `${order.terms.name}${several}`;
  if (!b) return `no order to ${name}, no freight`;
  if (!a) return b.freight === 0 ? `the draft to ${name} is carried free` : `one more freight, ${name}`;
  return b.freight === 0 ? `${name} carries it free` : `${name} charges freight`;
}
