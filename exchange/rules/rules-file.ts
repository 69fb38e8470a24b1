import { z } from "zod";
import { ROLES } from "../../core/people/roles";
import { type Ladder, type Rules, SIGNED_KINDS, SIGNED_PAPERS, type Signer } from "../../core/signoff/rulebook";

/**
 * Rules as a file (docs/exchange.md): whatever has a name stands under its name, people under what they sign in as,
 * suppliers and stores under their codes. Amounts are in minor units of the home currency.
 */
const SignerFile = z.union([
  z.strictObject({ person: z.string() }),
  z.strictObject({ role: z.enum(ROLES) }),
  z.strictObject({ team: z.string(), all: z.boolean().default(false) }),
  z.strictObject({ manager: z.literal(true) }),
]);
const Amount = z.number().int().min(0);
const Hours = z.number().int().min(1).max(1000);
const Names = z.array(z.string().max(200)).max(1000).default([]);
const LadderFile = z.strictObject({
  name: z.string().min(2).max(60),
  papers: z.array(z.enum(SIGNED_PAPERS)),
  departments: Names,
  categories: Names,
  suppliers: Names,
  stores: Names,
  kinds: z.array(z.enum(SIGNED_KINDS)).default([]),
  needs: z.enum(["every rung", "one rung"]).default("every rung"),
  own: Amount.default(0),
  overBudget: z
    .union([
      z.enum(["nothing", "block"]),
      z.strictObject({ who: SignerFile, hours: Hours, climbsTo: SignerFile.nullable().default(null) }),
    ])
    .default("nothing"),
  rungs: z
    .array(
      z.strictObject({
        upTo: Amount.nullable(),
        who: SignerFile.nullable(),
        hours: Hours.default(8),
        climbsTo: SignerFile.nullable().default(null),
      }),
    )
    .max(12),
});
export const RulesFile = z.strictObject({
  format: z.literal("wharf-tally/spend-ladders/1"),
  currency: z.string().length(3),
  allowance: z.strictObject({ percent: z.number().int().min(0).max(10_000), amount: Amount.nullable() }),
  ladders: z.array(LadderFile).max(1000),
});
export type RulesFile = z.output<typeof RulesFile>;

/** The schema that other programs check such a file by. */
export const rulesSchema = () => z.toJSONSchema(RulesFile, { io: "input" });

/** Names of what rules point at, both ways. */
export interface Names {
  people: ReadonlyMap<number, string>;
  teams: ReadonlyMap<number, string>;
  departments: ReadonlyMap<number, string>;
  suppliers: ReadonlyMap<number, string>;
  stores: ReadonlyMap<number, string>;
  categories: ReadonlySet<string>;
}

export function rulesToFile(rules: Rules, names: Names, currency: string): RulesFile {
  const signer = (s: Signer): z.output<typeof SignerFile> => {
    switch (s.kind) {
      case "person":
        return { person: names.people.get(s.person) ?? "" };
      case "role":
        return { role: s.role };
      case "team":
        return { team: names.teams.get(s.team) ?? "", all: s.all };
      case "manager":
        return { manager: true };
    }
  };
  const orNone = (s: Signer | null) => (s ? signer(s) : null);
  const named = (ids: readonly number[], of: ReadonlyMap<number, string>) => ids.map((id) => of.get(id) ?? "");
  return {
    format: "wharf-tally/spend-ladders/1",
    currency,
    allowance: { ...rules.allowance },
    ladders: rules.ladders.map((l) => ({
      name: l.name,
      papers: [...l.papers],
      departments: named(l.departments, names.departments),
      categories: [...l.categories],
      suppliers: named(l.suppliers, names.suppliers),
      stores: named(l.stores, names.stores),
      kinds: [...l.kinds],
      needs: l.needs,
      own: l.own,
      overBudget:
        typeof l.overBudget === "object"
          ? { who: signer(l.overBudget.who), hours: l.overBudget.hours, climbsTo: orNone(l.overBudget.climbsTo) }
          : l.overBudget,
      rungs: l.rungs.map((r) => ({ upTo: r.upTo, who: orNone(r.who), hours: r.hours, climbsTo: orNone(r.climbsTo) })),
    })),
  };
}

/** Rules from a file, or every name in it that nothing here has. */
export function rulesFromFile(
  file: RulesFile,
  names: Names,
): { ok: true; rules: Rules } | { ok: false; says: string[] } {
  const says = new Set<string>();
  const finder = (of: ReadonlyMap<number, string>, what: string) => {
    const ids = new Map([...of].map(([id, name]) => [name.toLowerCase(), id]));
    return (name: string): number => {
      const id = ids.get(name.toLowerCase());
      if (id === undefined) says.add(`There is no ${what} “${name}” here.`);
      return id ?? 0;
    };
  };
  const person = finder(names.people, "person");
  const team = finder(names.teams, "team");
  const department = finder(names.departments, "department");
  const supplier = finder(names.suppliers, "supplier");
  const store = finder(names.stores, "store");
  const categories = new Map([...names.categories].map((c) => [c.toLowerCase(), c]));
  const category = (name: string): string => {
    const found = names.categories.has(name) ? name : categories.get(name.toLowerCase());
    if (found === undefined) says.add(`No item is filed under “${name}” here.`);
    return found ?? name;
  };
  const signer = (s: z.output<typeof SignerFile>): Signer => {
    if ("person" in s) return { kind: "person", person: person(s.person) };
    if ("role" in s) return { kind: "role", role: s.role };
    if ("team" in s) return { kind: "team", team: team(s.team), all: s.all };
    return { kind: "manager" };
  };
  const orNone = (s: z.output<typeof SignerFile> | null) => (s ? signer(s) : null);
  const ladders = file.ladders.map(
    (l, i): Ladder => ({
      ...l,
      id: i + 1,
      departments: l.departments.map(department),
      categories: l.categories.map(category),
      suppliers: l.suppliers.map(supplier),
      stores: l.stores.map(store),
      overBudget:
        typeof l.overBudget === "object"
          ? { who: signer(l.overBudget.who), hours: l.overBudget.hours, climbsTo: orNone(l.overBudget.climbsTo) }
          : l.overBudget,
      rungs: l.rungs.map((r) => ({ ...r, who: orNone(r.who), climbsTo: orNone(r.climbsTo) })),
    }),
  );
  const { percent, amount } = file.allowance;
  if (says.size) return { ok: false, says: [...says] };
  return { ok: true, rules: { allowance: { percent, amount }, ladders } };
}
