import { Big } from "../numbers/decimal";
import { ONE, type StockQty, stock } from "../numbers/quantity";
import { percent, quantity, type Step, type Sum, words } from "../sums/sum";

/** What was measured over some days: how many, their sum, and the sum of their squares. */
export interface Measured {
  count: number;
  sum: number;
  squares: number;
}

export interface Suggestion {
  point: StockQty;
  /** Chance of running out before the goods come, at the point that is set, in hundredths of a percent. */
  chanceAtSet: number;
  sum: Sum;
}

export const measured = (values: readonly number[]): Measured => ({
  count: values.length,
  sum: values.reduce((a, v) => a + v, 0),
  squares: values.reduce((a, v) => a + v * v, 0),
});

/** Mean and standard deviation of a sample (n − 1); no spread is known from a single value. */
export function spread(m: Measured): { mean: number; deviation: number } {
  if (m.count === 0) return { mean: 0, deviation: 0 };
  const mean = m.sum / m.count;
  const variance = m.count > 1 ? Math.max(0, (m.squares - m.sum * mean) / (m.count - 1)) : 0;
  return { mean, deviation: Math.sqrt(variance) };
}

/**
 * The reorder point that keeps the wished service level: d·L + z·√(L·σd² + d²·σL²), with usage d ± σd a day in stock
 * units and lead time L ± σL in days (the usual formula for independent demand and lead time; domain §4). Statistics are
 * estimates: they are worked in ordinary numbers, and the point is rounded up to a tenth of a stock unit.
 */
export function suggestPoint(
  daily: { mean: number; deviation: number },
  lead: { mean: number; deviation: number },
  serviceLevel: number,
  set: StockQty,
  unit: string,
  /** Things that are counted one by one are kept in whole ones. */
  whole = false,
): Suggestion {
  const z = zOf(serviceLevel / 10_000);
  const during = daily.mean * lead.mean;
  const deviation = Math.sqrt(lead.mean * daily.deviation ** 2 + daily.mean ** 2 * lead.deviation ** 2);
  const tenth = (n: number) => stock(Number(new Big(n.toFixed(6)).round(1, Big.roundHalfUp).times(10_000)));
  const usage = tenth(during);
  const safety = tenth(z * deviation);
  const exact = stock(usage + safety);
  const point = whole ? stock(Math.ceil(exact / ONE) * ONE) : exact;
  const chanceAtSet = chanceAbove(set / 10_000, during, deviation);
  const steps: Step[] = [
    { op: "", label: "used while goods are on their way", figure: quantity(usage, unit) },
    { op: "·", label: "a day", figure: words(`${fixed(daily.mean)} ± ${fixed(daily.deviation)} ${unit}`) },
    { op: "·", label: "on their way", figure: words(`${fixed(lead.mean)} ± ${fixed(lead.deviation)} days`) },
    { op: "+", label: `safety stock, ${fixed(z)} × ${fixed(deviation)}`, figure: quantity(safety, unit) },
    { op: "·", label: "to be there as often as", figure: percent(serviceLevel) },
    { op: "=", label: "reorder point", figure: quantity(exact, unit) },
    ...(point === exact ? [] : [{ op: "→" as const, label: "up to a whole one", figure: quantity(point, unit) }]),
    { op: "·", label: "set now", figure: quantity(set, unit) },
    { op: "·", label: "chance of running out at the set one", figure: percent(chanceAtSet) },
  ];
  return { point, chanceAtSet, sum: { title: "Is the reorder point right?", steps } };
}

const fixed = (n: number) => String(Number(n.toFixed(2)));

/** Chance that the use while goods are on their way exceeds what is there, in hundredths of a percent. */
function chanceAbove(there: number, mean: number, deviation: number): number {
  if (deviation === 0) return there >= mean ? 0 : 10_000;
  return Math.round(upperTail((there - mean) / deviation) * 10_000);
}

/**
 * Upper tail of the standard normal distribution, absolute error below 1.5e-7 (Abramowitz and Stegun, Handbook of
 * Mathematical Functions, 26.2.17 in the form of 7.1.26).
 */
export function upperTail(z: number): number {
  const x = Math.abs(z) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * x);
  const poly = ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t;
  const half = (poly * Math.exp(-x * x)) / 2;
  return z >= 0 ? half : 1 - half;
}

/** The z below which a share of a standard normal distribution lies, by halving; good to a millionth. */
export function zOf(share: number): number {
  let low = -6;
  let high = 6;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (1 - upperTail(middle) < share) low = middle;
    else high = middle;
  }
  return Math.round(((low + high) / 2) * 1e6) / 1e6;
}
