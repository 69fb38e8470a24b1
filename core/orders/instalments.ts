import type { Day } from "../calendar/day";
import { quantityText } from "../numbers/quantity";

export interface Instalment {
  quantity: number;
  required: Day;
}
export interface Planned extends Instalment {
  /** The sum of this one and all earlier ones. */
  upto: number;
}

/** Instalments by their days with running sums; or a sentence where they are not what the line orders. */
export function planInstalments(
  parts: readonly Instalment[],
  ordered: number,
): { ok: true; plan: Planned[] } | { ok: false; says: string } {
  if (parts.length < 2) return { ok: true, plan: [] };
  const plan: Planned[] = [];
  let upto = 0;
  for (const p of [...parts].sort((a, b) => (a.required < b.required ? -1 : a.required > b.required ? 1 : 0))) {
    upto += p.quantity;
    plan.push({ quantity: p.quantity, required: p.required, upto });
  }
  if (upto === ordered) return { ok: true, plan };
  const off = upto - ordered;
  return {
    ok: false,
    says: `The instalments come to ${quantityText(upto)}, which is ${quantityText(Math.abs(off))} ${off > 0 ? "more" : "less"} than the ${quantityText(ordered)} of the line.`,
  };
}

/** What is still to come of each instalment when so much has come: the earliest is filled first. */
export const openOf = (plan: readonly Planned[], received: number): number[] =>
  plan.map((p) => Math.max(0, Math.min(p.quantity, p.upto - received)));
