import { Big } from "../numbers/decimal";
import { ONE, quantityText } from "../numbers/quantity";
import { percent, quantity, type Step, words } from "../sums/sum";

/** What may be kept of a delivery that is not as ordered, and what happens beyond it (domain-goods §11). Null: not set. */
export interface DeliveryTolerance {
  /** Hundredths of a percent of what was ordered. */
  overPercent: number | null;
  /** Purchase units, ten-thousandths. */
  overQuantity: number | null;
  underPercent: number | null;
  underQuantity: number | null;
  /** Days before the day on which it is expected. */
  earlyDays: number | null;
  lateDays: number | null;
  /** What becomes of what is beyond. */
  beyond: Beyond | null;
  /** What becomes of what is too early. */
  early: TooEarly | null;
}
/** The same for invoices, too. */
export interface Tolerance extends DeliveryTolerance {
  /** Of a price, hundredths of a percent; and per line, minor units of home currency. */
  pricePercent: number | null;
  priceAmount: number | null;
}
export type ToleranceValue = keyof Tolerance;

export const BEYOND = ["hold", "keep", "refuse"] as const;
export type Beyond = (typeof BEYOND)[number];
export const TOO_EARLY = ["ask", "take", "refuse"] as const;
export type TooEarly = (typeof TOO_EARLY)[number];

export const NO_TOLERANCE: Tolerance = {
  overPercent: null,
  overQuantity: null,
  underPercent: null,
  underQuantity: null,
  earlyDays: null,
  lateDays: null,
  pricePercent: null,
  priceAmount: null,
  beyond: null,
  early: null,
};
export const TOLERANCE_VALUES = Object.keys(NO_TOLERANCE) as ToleranceValue[]; // the keys of the shape above

/** Where tolerances are kept, the narrowest first: the first that sets a value is the one that holds. */
export const TOLERANCE_SCOPES = ["order line", "item at supplier", "item", "category", "supplier", "house"] as const;
export type ToleranceScope = (typeof TOLERANCE_SCOPES)[number];

export interface ToleranceSet extends Tolerance {
  scope: ToleranceScope;
}

/** Where each value comes from. */
type From<V extends ToleranceValue> = Readonly<Partial<Record<V, ToleranceScope>>>;
/** What holds for a line. */
export interface ToleranceInForce extends Tolerance {
  from: From<ToleranceValue>;
}
/** What of it goods are counted by: it says nothing of prices. */
export interface DeliveryInForce extends DeliveryTolerance {
  from: From<keyof DeliveryTolerance>;
}

/** What whoever counts goods may see of it. */
export const forDelivery = (t: ToleranceInForce): DeliveryInForce => ({
  overPercent: t.overPercent,
  overQuantity: t.overQuantity,
  underPercent: t.underPercent,
  underQuantity: t.underQuantity,
  earlyDays: t.earlyDays,
  lateDays: t.lateDays,
  beyond: t.beyond,
  early: t.early,
  from: {
    overPercent: t.from.overPercent,
    overQuantity: t.from.overQuantity,
    underPercent: t.from.underPercent,
    underQuantity: t.from.underQuantity,
    earlyDays: t.from.earlyDays,
    lateDays: t.from.lateDays,
    beyond: t.from.beyond,
    early: t.from.early,
  },
});

/** Looks each value up on its own, the narrowest scope first. `sets` are those that concern the line, one for a scope. */
export function toleranceInForce(sets: readonly ToleranceSet[]): ToleranceInForce {
  const by = [...sets].sort((a, b) => TOLERANCE_SCOPES.indexOf(a.scope) - TOLERANCE_SCOPES.indexOf(b.scope));
  const from: Partial<Record<ToleranceValue, ToleranceScope>> = {};
  const first = <V extends ToleranceValue>(value: V): Tolerance[V] => {
    const set = by.find((s) => s[value] !== null);
    if (set) from[value] = set.scope;
    return set ? set[value] : null;
  };
  return {
    overPercent: first("overPercent"),
    overQuantity: first("overQuantity"),
    underPercent: first("underPercent"),
    underQuantity: first("underQuantity"),
    earlyDays: first("earlyDays"),
    lateDays: first("lateDays"),
    pricePercent: first("pricePercent"),
    priceAmount: first("priceAmount"),
    beyond: first("beyond"),
    early: first("early"),
    from,
  };
}

/** A percentage and a quantity of what was ordered: both set, the smaller counts; none set, none. Ten-thousandths, exact. */
function spare(ordered: number, hundredths: number | null, most: number | null): Big {
  const part = hundredths === null ? null : new Big(ordered).times(hundredths).div(10_000);
  if (part === null) return new Big(most ?? 0);
  return most === null || part.lt(most) ? part : new Big(most);
}

/** The most that may be kept of a line: what is ordered, and so much over; whole units of what comes whole. */
export function keptAtMost(t: DeliveryTolerance, ordered: number, whole: boolean): number {
  const most = spare(ordered, t.overPercent, t.overQuantity).plus(ordered);
  const step = whole ? ONE : 1;
  const floor = Number(most.div(step).round(0, Big.roundDown).toFixed(0)) * step;
  return Math.max(ordered, floor);
}

/** Is a line of which so much came complete, within its tolerance? */
export const isComplete = (t: DeliveryTolerance, ordered: number, received: number): boolean =>
  spare(ordered, t.underPercent, t.underQuantity).gte(ordered - received);

/** The values behind one limit, each with where it comes from. */
function limitSteps(t: DeliveryInForce, side: "over" | "under", unit: string): Step[] {
  const hundredths = t[`${side}Percent`];
  const most = t[`${side}Quantity`];
  const by = (v: "Percent" | "Quantity") => `by ${t.from[`${side}${v}`] ?? "house"}`;
  const steps: Step[] = [];
  if (hundredths !== null) steps.push({ op: "·", label: `${side}, ${by("Percent")}`, figure: percent(hundredths) });
  if (most !== null)
    steps.push({ op: "·", label: `${side}, at most, ${by("Quantity")}`, figure: quantity(most, unit) });
  return steps;
}

/** What may be over and under, with where each value comes from, as steps of a sum. Quantities in purchase units. */
export function toleranceSteps(t: DeliveryInForce, ordered: number, whole: boolean, unit: string): Step[] {
  const steps: Step[] = [{ op: "", label: "ordered", figure: quantity(ordered, unit) }];
  const kept = (b: Big) => Number(b.round(0, Big.roundDown).toFixed(0));
  const over = kept(spare(ordered, t.overPercent, t.overQuantity));
  steps.push(
    ...limitSteps(t, "over", unit),
    { op: "+", label: over === 0 ? "over: none is allowed" : "over", figure: quantity(over, unit) },
    { op: "=", label: "may be kept", figure: quantity(ordered + over, unit) },
  );
  const most = keptAtMost(t, ordered, whole);
  if (most !== ordered + over) steps.push({ op: "→", label: "in whole units", figure: quantity(most, unit) });
  if (t.underPercent === null && t.underQuantity === null) return steps;
  const under = kept(spare(ordered, t.underPercent, t.underQuantity));
  return [
    ...steps,
    { op: "", label: "ordered", figure: quantity(ordered, unit) },
    ...limitSteps(t, "under", unit),
    { op: "−", label: "under", figure: quantity(under, unit) },
    { op: "=", label: "complete from", figure: quantity(ordered - under, unit) },
  ];
}

/** "5 %, at most 3": a limit as a person writes it; empty where none is set. */
export const toleranceWords = (hundredths: number | null, most: number | null): string =>
  [
    hundredths === null ? "" : `${quantityText(hundredths * 100)} %`,
    most === null ? "" : hundredths === null ? quantityText(most) : `at most ${quantityText(most)}`,
  ]
    .filter(Boolean)
    .join(", ");

/** Days early, with where they come from, as a step of a sum. */
export const earlyStep = (t: DeliveryInForce): Step[] =>
  t.earlyDays === null
    ? []
    : [
        {
          op: "·",
          label: `early, by ${t.from.earlyDays ?? "house"}`,
          figure: words(t.earlyDays === 1 ? "1 day" : `${t.earlyDays} days`),
        },
      ];
