import type { Role } from "../../../core/people/roles";
import {
  type Ladder,
  type Rules,
  type SignedKind,
  type SignedPaper,
  type Signer,
  WIDE,
} from "../../../core/signoff/rulebook";
import type { People } from "../../../core/signoff/way";
import type { RuleChoices } from "../../../server/queries/signoff/choices";

export const PAPER_WORDS: Record<SignedPaper, string> = {
  requisition: "Requisitions",
  order: "Orders",
  blanket: "Blanket orders",
  change: "Changes after sign-off",
};

export const KINDS: Record<SignedKind, string> = {
  "one-off": "one-off orders",
  "call-off": "call-offs",
  direct: "direct deliveries",
};

const sentence = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** People as the page knows them, so that gaps and ways show while one types. */
export function peopleFrom(c: RuleChoices): People {
  const signing = c.people.filter((p) => p.signs);
  const find = (id: number | null) => signing.filter((p) => p.id === id);
  return {
    membersOf(signer, writer) {
      switch (signer.kind) {
        case "person":
          return find(signer.person);
        case "role":
          return signing.filter((p) => p.roles.includes(signer.role));
        case "team":
          return (c.teams.find((t) => t.id === signer.team)?.members ?? []).flatMap(find);
        case "manager":
          return find(c.people.find((p) => p.id === writer)?.manager ?? null);
      }
    },
    nameOf(signer, writer) {
      switch (signer.kind) {
        case "person":
          return c.people.find((p) => p.id === signer.person)?.name ?? "Somebody who left";
        case "role":
          return sentence(signer.role);
        case "team":
          return c.teams.find((t) => t.id === signer.team)?.name ?? "A team that is not there";
        case "manager": {
          const name = c.people.find((p) => p.id === writer)?.name;
          return name ? `Manager of ${name}` : "Manager of the writer";
        }
      }
    },
  };
}

/** A signer as the value of a choice, and back; empty is nobody. */
export function signerKey(s: Signer | null): string {
  if (!s) return "";
  switch (s.kind) {
    case "manager":
      return "manager";
    case "team":
      return `team/${s.team}${s.all ? "/all" : ""}`;
    case "role":
      return `role/${s.role}`;
    case "person":
      return `person/${s.person}`;
  }
}
export function signerFrom(key: string): Signer | null {
  const [kind, which, all] = key.split("/");
  switch (kind) {
    case "manager":
      return { kind: "manager" };
    case "team":
      return { kind: "team", team: Number(which), all: all === "all" };
    case "role":
      return { kind: "role", role: which as Role }; // of the options, made from the roles
    case "person":
      return { kind: "person", person: Number(which) };
    default:
      return null;
  }
}

/** Everybody who could stand on a rung, as choices. */
export function signerOptions(c: RuleChoices): { value: string; label: string }[] {
  const roles = new Set(c.people.filter((p) => p.signs).flatMap((p) => p.roles));
  return [
    { value: "manager", label: "the writer’s manager" },
    ...c.teams.flatMap((t) => [
      { value: `team/${t.id}`, label: t.members.length > 1 ? `${t.name}, any one` : t.name },
      ...(t.members.length > 1 ? [{ value: `team/${t.id}/all`, label: `${t.name}, all of them` }] : []),
    ]),
    ...c.people.filter((p) => p.signs).map((p) => ({ value: `person/${p.id}`, label: p.name })),
    ...[...roles].sort().map((r) => ({ value: `role/${r}`, label: `any ${r}` })),
  ];
}

export const signerWords = (s: Signer, people: People) =>
  `${people.nameOf(s, 0)}${s.kind === "team" && s.all ? ", all" : ""}`;

/** What a ladder is for, in a line: "all", or what it is narrowed to. */
export function narrowedTo(l: Ladder, c: RuleChoices): string {
  const names = (ids: readonly number[], list: readonly { id: number; name: string }[]) =>
    ids.map((id) => list.find((x) => x.id === id)?.name ?? "?").join(", ");
  const parts = [
    names(l.departments, c.departments),
    l.categories.join(", "),
    names(l.suppliers, c.suppliers),
    names(l.stores, c.stores),
    l.kinds.map((k) => KINDS[k]).join(", "),
  ].filter(Boolean);
  return parts.length ? parts.join("; ") : "all";
}

export const papersOf = (l: Ladder) =>
  l.papers.length ? sentence(l.papers.map((p) => PAPER_WORDS[p].toLowerCase()).join(", ")) : "no paper";

/** How many rungs and ladders read otherwise than in the rules in force. */
export function changedRungs(before: Rules | null, after: Rules): number {
  let changed = 0;
  for (const l of after.ladders) {
    const was = before?.ladders.find((b) => b.id === l.id);
    const most = Math.max(l.rungs.length, was?.rungs.length ?? 0);
    for (let i = 0; i < most; i++) if (JSON.stringify(l.rungs[i]) !== JSON.stringify(was?.rungs[i])) changed++;
  }
  for (const b of before?.ladders ?? []) if (!after.ladders.some((l) => l.id === b.id)) changed += b.rungs.length;
  return changed;
}

export function newLadder(rules: Rules): Ladder {
  const id = 1 + Math.max(0, ...rules.ladders.map((l) => l.id));
  return {
    id,
    name: `Ladder ${id}`,
    papers: ["order"],
    ...WIDE,
    rungs: [{ upTo: null, who: { kind: "manager" }, hours: 8, climbsTo: null }],
  };
}

/** An amount on the scale goes without its cents where there are none. */
export const brief = (money: string) => money.replace(/[.,]00$/, "");
