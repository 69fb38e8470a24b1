import { z } from "zod";
import { faultsOf, knownOf } from "../../../core/signoff/faults";
import { type Rules, SIGNED_KINDS, SIGNED_PAPERS } from "../../../core/signoff/rulebook";
import { SignerColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { readRuleChoices } from "../../queries/signoff/choices";
import { readRulebookDraft, readRulebooks, rulebookOn } from "../../queries/signoff/rulebooks";
import { readRoster } from "../../queries/signoff/staff";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { DayField, text } from "../fields";

const Minor = z.number().int().min(0, "An amount is not below zero.").max(1e14, "This amount is too large.");
const Key = z.number().int().positive();
const Hours = z
  .number("Hours are a number.")
  .int("Whole hours.")
  .min(1, "At least an hour.")
  .max(1000, "At most 1,000 hours.");
const Rung = z.strictObject({
  upTo: Minor.nullable(),
  who: SignerColumn.nullable(),
  hours: Hours,
  climbsTo: SignerColumn.nullable(),
});

/** Ladders as core/signoff/rulebook.ts has them; what is only unwise is said beside them, and kept all the same. */
export const RulesField = z.strictObject({
  allowance: z.strictObject({
    percent: z.number().int().min(0, "Between 0 and 100 percent.").max(10_000, "Between 0 and 100 percent."),
    amount: Minor.nullable(),
  }),
  ladders: z
    .array(
      z.strictObject({
        id: Key,
        name: text(60, 2, "Name this ladder."),
        papers: z.array(z.enum(SIGNED_PAPERS)).max(4),
        departments: z.array(Key).max(200),
        categories: z.array(z.string().max(80)).max(200),
        suppliers: z.array(Key).max(500),
        stores: z.array(Key).max(200),
        kinds: z.array(z.enum(SIGNED_KINDS)).default([]),
        needs: z.enum(["every rung", "one rung"]),
        own: Minor,
        overBudget: z.union([
          z.enum(["nothing", "block"]),
          z.strictObject({ who: SignerColumn, hours: Hours, climbsTo: SignerColumn.nullable() }),
        ]),
        rungs: z.array(Rung).max(12, "At most 12 rungs."),
      }),
    )
    .max(1000, "At most 1,000 ladders."),
});

const KeepDraft = z.object({
  /** The version of the draft that was changed; 0 where there was none. */
  version: z.coerce.number().int().min(0),
  rules: RulesField,
});

export const TryRules = KeepDraft.pick({ rules: true });

/** Keeps the rules that are being written; nothing goes by them until they are started. */
export function keepRulesDraft(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(KeepDraft, raw);
  if (!input.ok) return input;
  const { version, rules } = input.value;
  return once(desk, "keep ladders", (tx) => {
    const draft = readRulebookDraft(tx.db);
    if ((draft?.version ?? 0) !== version)
      return stale(`${draft?.person ?? "Somebody"} changed these rules meanwhile. Load the page to see them.`);
    const wrong = pointersOf(tx.db, rules);
    if (wrong.length) return refuseAll(wrong);
    const next = version + 1;
    sql(
      tx.db,
      `INSERT INTO rulebook_draft (id, version, rules, at, person) VALUES (1, @next, @rules, @at, @person)
       ON CONFLICT (id) DO UPDATE SET version = @next, rules = @rules, at = @at, person = @person`,
    ).run({ next, rules: JSON.stringify(rules), at: desk.now, person: desk.person.id });
    tx.record("rules.drafted", "rules", { version: next, ladders: rules.ladders.length });
    return done({ version: next });
  });
}

/** Throws away what is being written; the rules in force stay. */
export function dropRulesDraft(desk: Desk, raw: unknown): Done<{ dropped: true }> {
  const input = checked(z.object({ version: z.coerce.number().int() }), raw);
  if (!input.ok) return input;
  return once(desk, "keep ladders", (tx) => {
    const gone = sql(tx.db, "DELETE FROM rulebook_draft WHERE version = ?").run(input.value.version).changes;
    if (gone === 0) return stale("Somebody changed these rules meanwhile. Load the page to see them.");
    tx.record("rules.draft-dropped", "rules", {});
    return done({ dropped: true });
  });
}

const StartRules = z.object({ version: z.coerce.number().int().min(1), starts: DayField });

/** Makes what was written the rules from a day on. Papers in sign-off keep the version that they started with. */
export function startRules(desk: Desk, raw: unknown): Done<{ started: number }> {
  const input = checked(StartRules, raw);
  if (!input.ok) return input;
  const { version, starts } = input.value;
  return once(desk, "keep ladders", (tx) => {
    const draft = readRulebookDraft(tx.db);
    if (!draft) return refuse("", "There is nothing that was changed.");
    if (draft.version !== version)
      return stale(`${draft.person} changed these rules meanwhile. Load the page to see them.`);
    if (starts < desk.day) return refuse("starts", "Rules start today or later: nothing is judged by them afterwards.");
    const { currency, locale } = theCompany(tx.db);
    const bars = faultsOf(
      draft.rules,
      readRoster(tx.db, desk.day),
      knownOf(readRuleChoices(tx.db)),
      currency,
      locale,
    ).filter((f) => f.bars);
    if (bars.length) {
      const of = (id: number) => draft.rules.ladders.find((l) => l.id === id)!.name;
      return refuseAll(bars.map((f) => ({ field: "", says: `${of(f.ladder)}: ${f.says}` })));
    }
    const next = 1 + (readRulebooks(tx.db).at(-1)?.version ?? 0);
    sql(tx.db, "INSERT INTO rulebook (version, starts, rules, kept, person) VALUES (?, ?, ?, ?, ?)").run(
      next,
      starts,
      JSON.stringify(draft.rules),
      desk.now,
      desk.person.id,
    );
    sql(tx.db, "DELETE FROM rulebook_draft").run();
    tx.record("rules.started", `rules ${next}`, { starts, rules: draft.rules });
    return done({ started: next });
  });
}

/** Takes back rules that have not started; the ones before them go on. */
export function takeBackRules(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(z.object({ version: z.coerce.number().int().min(1) }), raw);
  if (!input.ok) return input;
  const { version } = input.value;
  return once(desk, "keep ladders", (tx) => {
    const book = readRulebooks(tx.db).find((b) => b.version === version);
    if (!book || book.takenBack !== null) return refuse("", "There are no such rules any more.");
    if (book.starts <= desk.day || rulebookOn(tx.db, desk.day)?.version === version)
      return refuse("", "These rules hold already. Write others that start today, and they hold instead.");
    sql(tx.db, "UPDATE rulebook SET taken_back = ? WHERE version = ?").run(desk.now, version);
    tx.record("rules.taken-back", `rules ${version}`, { starts: book.starts });
    return done({ version });
  });
}

/** Whatever rules point at must be there. */
export function pointersOf(db: Db, rules: Rules): Problem[] {
  const ids = (table: string) =>
    new Set(
      sql<{ id: number }>(db, `SELECT id FROM ${table}`)
        .all()
        .map((r) => r.id),
    );
  const known = {
    person: ids("person"),
    team: ids("team"),
    department: ids("department"),
    supplier: ids("supplier"),
    store: ids("store"),
  };
  const problems: Problem[] = [];
  const used = new Set<number>();
  rules.ladders.forEach((l, i) => {
    const put = (field: string, says: string) => problems.push({ field: `ladders.${i}.${field}`, says });
    if (used.has(l.id)) put("name", "Two ladders have the same id.");
    used.add(l.id);
    if (rules.ladders.some((o) => o !== l && o.name.toLowerCase() === l.name.toLowerCase()))
      put("name", "Two ladders have this name.");
    if (l.departments.some((d) => !known.department.has(d))) put("departments", "There is no such department.");
    if (l.suppliers.some((s) => !known.supplier.has(s))) put("suppliers", "There is no such supplier.");
    if (l.stores.some((s) => !known.store.has(s))) put("stores", "There is no such store.");
    const signers = [
      ...l.rungs.flatMap((r) => [r.who, r.climbsTo]),
      ...(typeof l.overBudget === "object" ? [l.overBudget.who, l.overBudget.climbsTo] : []),
    ];
    for (const s of signers) {
      if (s?.kind === "person" && !known.person.has(s.person)) put("rungs", "There is no such person.");
      if (s?.kind === "team" && !known.team.has(s.team)) put("rungs", "There is no such team.");
    }
  });
  return problems;
}
