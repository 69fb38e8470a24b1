import { amount, type Sum, words } from "../sums/sum";

/** One rung of a spend ladder: up to an amount in home currency net of tax, inclusive; null is "whatever is above". */
export interface Rung {
  upTo: number | null;
  /** Null where nobody has to sign. */
  team: { id: number; name: string; members: readonly { id: number; name: string }[] } | null;
  hours: number;
}

export interface Ladder {
  name: string;
  rungs: readonly Rung[];
}

export type Needed = { ok: true; rungs: Rung[]; sum: Sum } | { ok: false; says: string };

/**
 * Every rung up to the first whose limit covers the amount, in order (domain §8); rungs at which nobody signs drop out.
 * Not ok where no rung reaches that high, or where the writer would be the only one to sign.
 */
export function signaturesFor(ladder: Ladder | null, minor: number, currency: string, writer: number): Needed {
  if (!ladder)
    return {
      ok: false,
      says: "No spend ladder says who signs this, so it cannot be submitted. An administrator can add one.",
    };
  const rungs: Rung[] = [];
  let covered = false;
  for (const rung of ladder.rungs) {
    rungs.push(rung);
    if (rung.upTo === null || minor <= rung.upTo) {
      covered = true;
      break;
    }
  }
  if (!covered)
    return {
      ok: false,
      says: `Nobody on the ladder “${ladder.name}” may sign this amount, so it cannot be submitted.`,
    };
  const signing = rungs.filter((r) => r.team !== null);
  for (const { team } of signing) {
    if (!team!.members.some((m) => m.id !== writer)) {
      return {
        ok: false,
        says: `Nobody but its writer could sign as ${team!.name.toLowerCase()}, so it cannot be submitted.`,
      };
    }
  }
  const sum: Sum = {
    title: "Who has to sign",
    steps: [
      { op: "", label: "net, before tax", figure: amount(minor, currency) },
      ...rungs.map((r) => ({
        op: "·" as const,
        label: r.team ? `${r.team.name}, within ${r.hours} hours` : "nobody",
        figure: r.upTo === null ? words("above") : amount(r.upTo, currency),
      })),
    ],
  };
  return { ok: true, rungs: signing, sum };
}

/** May this person sign here? A sentence where not: nobody signs their own paper. */
export function refusesSigner(
  team: { name: string; members: readonly { id: number }[] },
  person: number,
  writer: number,
): string | null {
  if (person === writer) return "Nobody signs their own paper.";
  if (!team.members.some((m) => m.id === person)) return `This waits for the ${team.name.toLowerCase()}.`;
  return null;
}
