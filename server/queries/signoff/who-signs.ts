import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import { exchanged, money, moneyText, parseMoney } from "../../../core/numbers/money";
import { may } from "../../../core/people/roles";
import { SIGNED_KINDS, SIGNED_PAPERS } from "../../../core/signoff/rulebook";
import { checked, type Done, done, type Person, type Problem, refuseAll } from "../../acts/desk";
import { DayOrNone, text } from "../../acts/fields";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../company";
import { readCategories } from "./choices";
import { routeOf } from "./route";
import { readRoster } from "./staff";

const name = text(200).optional().default("");
const WhoSigns = z.strictObject({
  kind: z.enum(SIGNED_PAPERS, `Say what it is: ${SIGNED_PAPERS.join(", ")}.`),
  amount: z.union([z.string(), z.number().transform(String)], "Say how much, net of tax."),
  currency: name,
  department: name,
  category: z
    .union([
      z.array(z.string().max(80)).max(50),
      z
        .string()
        .max(80)
        .transform((c) => (c ? [c] : [])),
    ])
    .default([]),
  supplier: name,
  store: name,
  orderKind: z.enum(SIGNED_KINDS, `An order is one of: ${SIGNED_KINDS.join(", ")}.`).optional(),
  /** Whose paper it would be, by what they sign in as; else the one who asks. */
  asker: name,
  day: DayOrNone.optional(),
  overBudget: z.boolean().default(false),
});

export interface WhoSigns {
  /** False where it could not be submitted; `says` has the reason. */
  clear: boolean;
  says: string | null;
  rules: number | null;
  ladder: string | null;
  amount: string;
  currency: string;
  signatures: {
    rung: number | null;
    name: string;
    people: string[];
    all: boolean;
    hours: number;
    climbsTo: string | null;
  }[];
  why: { label: string; figure: unknown }[];
}

/** Who would sign a paper that another program thinks of, and why; of others' papers only to those who may see the rules. */
export function whoSigns(db: Db, person: Person, today: Day, raw: unknown): Done<WhoSigns> {
  const input = checked(WhoSigns, raw);
  if (!input.ok) return input;
  const v = input.value;
  const { currency: home } = theCompany(db);
  const day = v.day ?? today;
  const problems: Problem[] = [];
  const find = (field: string, table: string, column: string, value: string): number | null => {
    if (value === "") return null;
    const row = sql<{ id: number }>(db, `SELECT id FROM ${table} WHERE ${column} = ? COLLATE NOCASE`).get(value);
    if (!row) problems.push({ field, says: `There is no such ${field}.` });
    return row?.id ?? null;
  };
  const department = find("department", "department", "name", v.department);
  const supplier = find("supplier", "supplier", "code", v.supplier);
  const store = find("store", "store", "code", v.store);
  const known = readCategories(db);
  for (const c of v.category)
    if (!known.includes(c)) problems.push({ field: "category", says: `No item is filed under “${c}”.` });
  const writer = v.asker === "" ? person.id : find("asker", "person", "login", v.asker);
  if (writer !== null && writer !== person.id && !may(person.roles, "see ladders"))
    problems.push({ field: "asker", says: "Your role only shows who would sign your own papers." });
  const currency = v.currency === "" ? home : v.currency.toUpperCase();
  const typed = /^[A-Z]{3}$/.test(currency) ? parseMoney(v.amount, currency) : null;
  if (!typed) problems.push({ field: "currency", says: "A currency has three letters, as in ISO 4217." });
  else if (!typed.ok) problems.push({ field: "amount", says: typed.says });
  const rate = currency === home ? 1_000_000 : rateOn(db, currency, home, day);
  if (typed?.ok && rate === null)
    problems.push({
      field: "currency",
      says: `No rate for ${currency} is known on that day, so nobody can say who must sign.`,
    });
  if (problems.length || !typed?.ok || rate === null || writer === null) return refuseAll(problems);
  const minor = exchanged(money(typed.value, currency), rate, home).minor;
  const facts = {
    paper: v.kind,
    amount: minor,
    department: department ?? readRoster(db, today).departmentOf(writer),
    categories: v.category,
    supplier,
    store,
    kind: v.orderKind ?? null,
    overBudget: v.overBudget,
  };
  const { way, book } = routeOf(db, facts, writer, day);
  const roster = readRoster(db, day);
  return done({
    clear: way.ok,
    says: way.ok ? null : way.says,
    rules: book?.version ?? null,
    ladder: way.ok ? way.ladder.name : null,
    amount: moneyText({ minor, currency: home }),
    currency: home,
    signatures: way.ok
      ? way.seats.map((s) => ({
          rung: s.at === null ? null : s.at + 1,
          name: s.name,
          people: s.members.map((m) => m.name),
          all: s.all,
          hours: s.hours,
          climbsTo: s.climbsTo && roster.nameOf(s.climbsTo, writer),
        }))
      : [],
    why: way.ok ? way.sum.steps.map(({ label, figure }) => ({ label, figure })) : [],
  });
}
