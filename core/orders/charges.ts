import { Big, roundToInteger } from "../numbers/decimal";
import { share } from "../numbers/money";
import { amount, type Step, type Sum } from "../sums/sum";
import type { LineKind, Spread } from "./kinds";

export interface CostLine {
  id: number;
  position: number;
  kind: LineKind;
  spread: Spread;
  /** Line net in minor units. */
  net: number;
  /** Weight of the whole line in ten-thousandths of a kilogram; null where nobody knows it. */
  weight: number | null;
}

export interface Spreading {
  /** What each line of goods takes of the charges, in minor units, by its id. */
  shares: Map<number, number>;
  /** Charges that could not be spread as asked, and why. */
  problems: { line: number; says: string }[];
}

const goods = (l: CostLine) => l.kind === "stocked" || l.kind === "not stocked";

/** Spreads charges over the goods of an order, by value or by weight, so that the shares add up to each charge exactly. */
export function spreadCharges(lines: readonly CostLine[]): Spreading {
  const over = lines.filter(goods);
  const shares = new Map(over.map((l) => [l.id, 0]));
  const problems: Spreading["problems"] = [];
  for (const charge of lines) {
    if (charge.kind !== "charge" || charge.spread === "expense" || charge.net === 0) continue;
    const weights = over.map((l) => (charge.spread === "value" ? l.net : (l.weight ?? 0)));
    const unknown = charge.spread === "weight" && over.find((l) => l.weight === null);
    if (unknown) {
      problems.push({
        line: charge.id,
        says: `Line ${unknown.position} has no weight. Give its item one, or spread by value.`,
      });
      continue;
    }
    if (weights.reduce((a, w) => a + w, 0) === 0) {
      problems.push({ line: charge.id, says: "There are no goods to spread it over. Let it be an expense." });
      continue;
    }
    share(charge.net, weights).forEach((part, i) => {
      shares.set(over[i]!.id, shares.get(over[i]!.id)! + part);
    });
  }
  return { shares, problems };
}

/** What the goods of a line cost us with their share of the charges. */
export function costSum(line: CostLine, lines: readonly CostLine[], quantity: number, currency: string): Sum {
  const steps: Step[] = [{ op: "", label: "goods", figure: amount(line.net, currency) }];
  let all = line.net;
  for (const charge of lines) {
    if (charge.kind !== "charge" || charge.spread === "expense") continue;
    const part = spreadCharges([...lines.filter(goods), charge]).shares.get(line.id) ?? 0;
    if (part === 0) continue;
    all += part;
    steps.push({ op: "+", label: `of line ${charge.position}, by ${charge.spread}`, figure: amount(part, currency) });
  }
  steps.push({ op: "=", label: "what it costs us", figure: amount(all, currency) });
  if (quantity > 0)
    steps.push({
      op: "·",
      label: "for each",
      figure: amount(roundToInteger(new Big(all).times(10_000).div(quantity)), currency),
    });
  return { title: "What the line costs with its charges", steps };
}
