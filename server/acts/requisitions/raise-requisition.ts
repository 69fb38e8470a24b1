import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { RequisitionId, StoreId } from "../../../core/ids";
import { unlessTooLarge } from "../../../core/numbers/decimal";
import { exponent, parseMoney } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { theCompany } from "../../queries/company";
import {
  aboutOf,
  costOf,
  type RequisitionHead,
  type RequisitionLine,
  readRequisition,
  readRequisitionHead,
  readRequisitionLines,
} from "../../queries/requisitions/requisition";
import { routeRequisition } from "../../queries/signoff/route";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { DayOrNone, Id, orNone, QuantityOrNone, text, Version } from "../fields";
import { askForSignatures } from "../signoff/ask-for-signatures";

/** Starts an empty draft for the asker's own store. */
export function startRequisition(desk: Desk): Done<{ requisition: RequisitionId }> {
  return once(desk, "ask", (tx) => {
    const store =
      desk.person.store ?? sql<{ id: StoreId }>(tx.db, "SELECT id FROM store ORDER BY id LIMIT 1").get()?.id;
    if (!store) return refuse("", "There is no store to deliver to yet. An administrator adds one under Settings.");
    const id = Number(
      sql(tx.db, "INSERT INTO requisition (asker, store, state, started) VALUES (?, ?, 'Draft', ?)").run(
        desk.person.id,
        store,
        desk.now,
      ).lastInsertRowid,
    );
    tx.record("requisition.started", `requisition ${id}`, {});
    return done({ requisition: id });
  });
}

const Line = z.object({
  item: orNone(Id),
  words: text(200),
  /** What a line in free words is: goods without a code, or a service. */
  kind: z.enum(["goods", "service"]).default("service"),
  quantity: QuantityOrNone,
  estimate: text(30),
  account: text(40).optional().default(""),
  budget: orNone(Id).optional(),
});
export const SaveRequisition = z.object({
  requisition: Id,
  version: Version,
  store: Id,
  neededBy: DayOrNone,
  reason: text(500),
  /** Empty: the asker’s own. */
  department: orNone(Id).optional(),
  lines: z.array(Line).max(200, "At most 200 lines on one requisition."),
  /** Others who are told what becomes of it. */
  watchers: z.array(Id).max(20, "At most 20 people.").optional(),
});

/** Keeps a draft as it was typed; half-filled lines are kept too and only questioned when it is submitted. */
export function saveRequisition(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(SaveRequisition, raw);
  if (!input.ok) return input;
  const { requisition, version, store, neededBy, reason, department, lines, watchers } = input.value;
  return once(desk, "ask", (tx) => {
    const draft = ownDraft(tx.db, desk, requisition, version);
    if (!draft.ok) return draft;
    if (!sql(tx.db, "SELECT 1 FROM store WHERE id = ?").get(store)) return refuse("store", "There is no such store.");
    const { currency } = theCompany(tx.db);
    const problems: Problem[] = [];
    const rows = lines.map((l, i) => {
      const item =
        l.item === null
          ? null
          : sql<{ cost: number | null }>(
              tx.db,
              "SELECT reference_cost AS cost FROM item WHERE id = ? AND active = 1",
            ).get(l.item);
      if (item === undefined) problems.push({ field: `lines.${i}.item`, says: "There is no such item." });
      if (l.account && !sql(tx.db, "SELECT 1 FROM account WHERE code = ?").get(l.account))
        problems.push({ field: `lines.${i}.account`, says: "There is no such account." });
      if (l.budget && !sql(tx.db, "SELECT 1 FROM budget WHERE id = ?").get(l.budget))
        problems.push({ field: `lines.${i}.budget`, says: "There is no such budget line." });
      const estimate = l.estimate === "" ? { ok: true as const, value: null } : parseMoney(l.estimate, currency);
      if (!estimate.ok) problems.push({ field: `lines.${i}.estimate`, says: estimate.says });
      const cost = item?.cost ?? 0;
      if (l.quantity !== null && unlessTooLarge(() => costOf(l.quantity!, cost, exponent(currency))) === null)
        problems.push({
          field: `lines.${i}.quantity`,
          says: "This comes to more than can be kept. Surely it is a slip.",
        });
      // What is known counts; only what nobody knows is estimated.
      return { ...l, estimate: estimate.ok && !item?.cost ? estimate.value : null };
    });
    if (department && !sql(tx.db, "SELECT 1 FROM department WHERE id = ?").get(department))
      problems.push({ field: "department", says: "There is no such department." });
    for (const id of watchers ?? []) {
      if (!sql(tx.db, "SELECT 1 FROM person WHERE id = ? AND active = 1").get(id))
        problems.push({ field: "watchers", says: "One of the people to tell is not here any more." });
    }
    if (problems.length) return refuseAll(problems);
    sql(tx.db, "DELETE FROM requisition_line WHERE requisition = ?").run(requisition);
    const add = sql(
      tx.db,
      "INSERT INTO requisition_line (requisition, position, item, words, kind, quantity, estimate, account, budget) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
    );
    rows.forEach((l, i) => {
      add.run(requisition, i + 1, l.item, l.words, l.kind, l.quantity, l.estimate, l.account || null, l.budget ?? null);
    });
    aboutOf(readRequisitionLines(tx.db, requisition)); // refused where all of them come to too much
    if (watchers) {
      sql(tx.db, "DELETE FROM requisition_watcher WHERE requisition = ?").run(requisition);
      const watch = sql(tx.db, "INSERT INTO requisition_watcher (requisition, person) VALUES (?, ?)");
      for (const id of new Set(watchers)) if (id !== desk.person.id) watch.run(requisition, id);
    }
    sql(
      tx.db,
      "UPDATE requisition SET store = ?, needed_by = ?, reason = ?, department = iif(?, ?, department), version = version + 1 WHERE id = ?",
    ).run(store, neededBy, reason, department === undefined ? 0 : 1, department ?? null, requisition);
    tx.record("requisition.saved", `requisition ${requisition}`, {
      store,
      neededBy,
      reason,
      department,
      lines: rows,
      watchers,
    });
    return done({ version: version + 1 });
  });
}

const Draft = z.object({ requisition: Id, version: Version });

/** Hands the draft in: numbered, then to Sign-off if it costs that much, else straight to the buyer's pool. */
export function submitRequisition(
  desk: Desk,
  raw: unknown,
): Done<{ requisition: RequisitionId; number: string; waitsFor: string | null }> {
  const input = checked(Draft, raw);
  if (!input.ok) return input;
  const { requisition, version } = input.value;
  return once(desk, "ask", (tx) => {
    const draft = ownDraft(tx.db, desk, requisition, version);
    if (!draft.ok) return draft;
    const sheet = readRequisition(tx.db, requisition)!;
    const problems = missing(sheet, desk.day);
    if (problems.length) return refuseAll(problems);
    const { way, ...route } = routeRequisition(tx.db, requisition, sheet.about ?? 0, desk.day);
    if (!way.ok) return refuse("", way.says);
    const number = draft.value.number ?? nextNumber(tx.db, "requisition", desk.day);
    const waitsFor = askForSignatures(
      tx,
      desk,
      {
        paper: "requisition",
        id: requisition,
        name: `Requisition ${number}`,
        writer: desk.person.id,
        lines: sheet.lines.map((l) => ({
          words: l.words || l.itemName || "",
          quantity: l.quantity === null ? "" : `${quantityText(l.quantity)} ${l.unit}`,
          minor: l.about ?? 0,
        })),
      },
      { ...route, way },
    );
    sql(
      tx.db,
      "UPDATE requisition SET number = ?, state = ?, submitted = ?, sent_back = NULL, version = version + 1 WHERE id = ?",
    ).run(number, waitsFor ? "In sign-off" : "Open", desk.now, requisition);
    tx.record("requisition.submitted", `requisition ${requisition}`, { number, about: sheet.about, waitsFor });
    return done({ requisition, number, waitsFor });
  });
}

/** Throws a draft away; once it had a number it is kept as withdrawn instead. */
export function dropRequisition(desk: Desk, raw: unknown): Done<{ kept: boolean }> {
  const input = checked(Draft, raw);
  if (!input.ok) return input;
  const { requisition, version } = input.value;
  return once(desk, "ask", (tx) => {
    const draft = ownDraft(tx.db, desk, requisition, version);
    if (!draft.ok) return draft;
    const kept = draft.value.number !== null;
    if (kept)
      sql(
        tx.db,
        "UPDATE requisition SET state = 'Withdrawn', ended_why = 'withdrawn before it was handed in again', version = version + 1 WHERE id = ?",
      ).run(requisition);
    else sql(tx.db, "DELETE FROM requisition WHERE id = ?").run(requisition);
    tx.record(kept ? "requisition.withdrawn" : "requisition.deleted", `requisition ${requisition}`, draft.value);
    return done({ kept });
  });
}

function missing(
  {
    head,
    lines,
  }: {
    head: RequisitionHead;
    lines: Pick<RequisitionLine, "item" | "words" | "quantity" | "estimate" | "costKnown">[];
  },
  today: Day,
): Problem[] {
  const problems: Problem[] = [];
  if (!head.neededBy) problems.push({ field: "neededBy", says: "Say by when it is needed." });
  else if (head.neededBy < today) problems.push({ field: "neededBy", says: "This day has passed." });
  if (head.reason.length < 3)
    problems.push({ field: "reason", says: "Say what it is for: the buyer and whoever signs will ask." });
  if (lines.length === 0) problems.push({ field: "lines", says: "Add at least one line." });
  lines.forEach((l, i) => {
    if (l.item === null && l.words === "")
      problems.push({ field: `lines.${i}.item`, says: "Find an item, or describe the service." });
    if (l.quantity === null) problems.push({ field: `lines.${i}.quantity`, says: "How many?" });
    if ((l.item !== null || l.words !== "") && !l.costKnown && l.estimate === null) {
      problems.push({ field: `lines.${i}.estimate`, says: "About how much? It decides who signs." });
    }
  });
  return problems;
}

/** The asker's own draft in the version that they saw, or why not. */
function ownDraft(db: Db, desk: Desk, id: RequisitionId, version: number): Done<RequisitionHead> {
  const head = readRequisitionHead(db, id);
  if (!head || head.asker !== desk.person.id) return refuse("", "This requisition is not yours, or is gone.");
  if (head.state !== "Draft") return refuse("", `${head.name} was submitted and can no longer be changed here.`);
  if (head.version !== version) return stale("This requisition was saved in another window meanwhile.");
  return done(head);
}
