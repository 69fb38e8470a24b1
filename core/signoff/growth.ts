import { Big, roundToInteger } from "../numbers/decimal";
import { amount, type Sum } from "../sums/sum";
import { type Facts, ladderFor, type Rules, rungsFor } from "./rulebook";

export interface Growth {
  again: boolean;
  /** Why, where it has to be signed again. */
  says: string;
  sum: Sum;
}

/**
 * Does a change after sign-off need a new one (domain §8)? What counts is the growth since somebody last signed, over all
 * versions since: it is measured against what was signed, so cutting it into small steps changes nothing. Nor does it
 * carry on where the rules would decide otherwise on it than on what was signed.
 */
export function grown(signed: Facts, as: Facts, book: Rules, currency: string): Growth {
  // What was signed without its freight is measured without it.
  const now = signed.freight === undefined ? { ...as, amount: as.amount - (as.freight ?? 0) } : as;
  const { percent, amount: most } = book.allowance;
  const share = roundToInteger(new Big(signed.amount).times(percent).div(10_000));
  const limit = most === null ? share : Math.min(share, most);
  const growth = now.amount - signed.amount;
  const says =
    signed.supplier !== null && signed.supplier !== now.supplier
      ? "It goes to another supplier."
      : growth > limit
        ? "It grew by more than is allowed."
        : (otherwise(signed, now, book, now.paper) ?? otherwise(signed, now, book, "change") ?? "");
  return {
    again: says !== "",
    says,
    sum: {
      title: "Growth since it was signed",
      steps: [
        { op: "", label: "now", figure: amount(now.amount, currency) },
        { op: "−", label: "as signed", figure: amount(signed.amount, currency) },
        { op: "=", label: "growth", figure: amount(growth, currency) },
        { op: "·", label: "allowed", figure: amount(limit, currency) },
      ],
    },
  };
}

/** How the rules decide otherwise on a paper than on what was signed of it: another ladder, a budget, a further rung. */
function otherwise(signed: Facts, now: Facts, book: Rules, paper: Facts["paper"]): string | null {
  const before = ladderFor(book, { ...signed, paper });
  const ladder = ladderFor(book, { ...now, paper });
  if (before?.id !== ladder?.id)
    return ladder
      ? `What it is now comes under the ladder “${ladder.name}”.`
      : `What it is now comes under no ladder; it was signed by “${before!.name}”.`;
  if (!ladder) return null;
  if (now.overBudget && !signed.overBudget && ladder.overBudget !== "nothing") return "It is over its budget now.";
  if (now.amount <= signed.amount) return null;
  const rungs = rungsFor(ladder, now.amount);
  const known = new Set(rungsFor(ladder, signed.amount)?.map((r) => r.at));
  return rungs?.every((r) => r.rung.who === null || known.has(r.at))
    ? null
    : `It passes a limit of the ladder “${ladder.name}”.`;
}
