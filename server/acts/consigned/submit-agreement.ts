import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import { overlap } from "../../../core/consigned/agreement";
import { showDay } from "../../../core/numbers/format";
import { quantityText } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { storeName } from "../../queries/choices";
import {
  type AgreementHead,
  type AgreementItem,
  readAgreementHead,
  readAgreementItems,
} from "../../queries/consigned/agreement";
import { agreementDocument } from "../../queries/consigned/agreement-document";
import { routeAgreement } from "../../queries/signoff/route";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { Id, Version } from "../fields";
import { askForSignatures } from "../signoff/ask-for-signatures";

const Which = z.object({ agreement: Id, version: Version });

/** Hands an agreement in: numbered, then signed by whom the spend ladder says for blanket orders; below its limit it runs at once. */
export function submitAgreement(desk: Desk, raw: unknown): Done<{ number: string; waitsFor: string | null }> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  const { agreement, version } = input.value;
  return once(desk, "write orders", (tx) => {
    const head = readAgreementHead(tx.db, agreement);
    if (head?.state !== "Draft") return refuse("", "Only a draft is handed in.");
    if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
    const items = readAgreementItems(tx.db, agreement);
    const problems = missing(tx.db, head, items, desk.day);
    if (problems.length) return refuseAll(problems);
    const { way, ...route } = routeAgreement(tx.db, agreement, desk.day);
    if (!way.ok) return refuse("", way.says);
    const number = head.number ?? nextNumber(tx.db, "agreement", desk.day);
    sql(
      tx.db,
      "UPDATE agreement SET number = ?, submitted = ?, sent_back = NULL, version = version + 1 WHERE id = ?",
    ).run(number, desk.now, agreement);
    const waitsFor = askForSignatures(
      tx,
      desk,
      {
        paper: "agreement",
        id: agreement,
        name: `Agreement ${number}`,
        writer: head.writer,
        lines: items.map((i) => ({
          words: i.name,
          quantity: `at most ${quantityText(i.most)} ${i.unit}`,
          minor: i.prices[0] ? Math.round(i.prices[0].price / 10_000) : 0,
        })),
      },
      { ...route, way },
    );
    if (waitsFor) sql(tx.db, "UPDATE agreement SET state = 'In sign-off' WHERE id = ?").run(agreement);
    else bindAgreement(tx.db, agreement, desk);
    tx.record("agreement.submitted", `agreement ${agreement}`, { number, amount: route.facts.amount, waitsFor });
    return done({ number, waitsFor });
  });
}

/** What is missing or wrong before anybody signs, each at its field. */
function missing(db: Db, head: AgreementHead, items: readonly AgreementItem[], today: Day): Problem[] {
  const problems: Problem[] = [];
  const whole = (says: string) => problems.push({ field: "", says });
  if (items.length === 0) problems.push({ field: "items", says: "Add at least one item." });
  if (head.ends < today) problems.push({ field: "ends", says: "This day has passed." });
  const { blocked } = sql<{ blocked: string }>(db, "SELECT blocked FROM supplier WHERE id = ?").get(head.supplier)!;
  if (blocked) whole(`${head.supplierName} is blocked: ${blocked}.`);
  for (const [i, item] of items.entries()) {
    if (!item.prices.some((p) => p.day <= head.starts))
      problems.push({ field: `items.${i}.prices`, says: `${item.name} has no price on the first day.` });
  }
  for (const other of others(db, head)) {
    const twice = items.find((i) => other.items.includes(i.item));
    if (twice && overlap(head, other))
      whole(
        `${twice.name} is in ${other.name} with ${head.supplierName} for ${storeName(db, head.store)} already, from ${showDay(other.starts, today)} to ${showDay(other.ends, today)}. Change that one, or take the item off here.`,
      );
  }
  const place = placeTaken(db, head);
  if (place) problems.push({ field: "place", says: place });
  if (head.changes !== null) problems.push(...pastPrices(db, head, items, today));
  return problems;
}

/** Agreements with the same supplier for the same store, but for the one that this changes. */
function others(db: Db, head: AgreementHead): { name: string; starts: Day; ends: Day; items: number[] }[] {
  return sql<{ id: number }>(
    db,
    `SELECT id FROM agreement WHERE supplier = @supplier AND store = @store AND id <> @id AND id IS NOT @changes
       AND (state = 'Running' OR (state = 'In sign-off' AND changes IS NULL))`,
  )
    .all({ supplier: head.supplier, store: head.store, id: head.id, changes: head.changes })
    .map(({ id }) => {
      const other = readAgreementHead(db, id)!;
      return { ...other, items: readAgreementItems(db, id).flatMap((i) => (i.gone ? [] : [i.item])) };
    });
}

/** Bins, or a store, are for one supplier alone. */
function placeTaken(db: Db, head: AgreementHead): string | null {
  if (head.place === "") return null;
  const other = sql<{ name: string; supplier: string }>(
    db,
    `SELECT a.number AS name, s.name AS supplier FROM agreement a JOIN supplier s ON s.id = a.supplier
     WHERE a.store = @store AND a.supplier <> @supplier AND a.state = 'Running' AND a.place <> '' AND a.starts <= @ends AND a.ends >= @starts
       AND (a.place = 'store' OR @place = 'store' OR (a.bins_from = @binsFrom COLLATE NOCASE)) LIMIT 1`,
  ).get({
    store: head.store,
    supplier: head.supplier,
    starts: head.starts,
    ends: head.ends,
    place: head.place,
    binsFrom: head.binsFrom,
  });
  return other ? `Agreement ${other.name} keeps that place for ${other.supplier} at that time.` : null;
}

/** Prices that have begun stay as they were agreed: a change adds others from tomorrow on. */
function pastPrices(db: Db, head: AgreementHead, items: readonly AgreementItem[], today: Day): Problem[] {
  const now = new Map(readAgreementItems(db, head.changes!).map((i) => [i.item, i]));
  return items.flatMap((item, i) => {
    const before = now.get(item.item);
    if (!before || before.gone) return [];
    const past = (of: AgreementItem) =>
      of.prices
        .filter((p) => p.day <= today)
        .map((p) => `${p.day} ${p.price}`)
        .join();
    return past(before) === past(item)
      ? []
      : [
          {
            field: `items.${i}.prices`,
            says: `${item.name}: prices that have begun stay as they were agreed. Add one that begins after ${showDay(today, today)}.`,
          },
        ];
  });
}

/**
 * An agreement that everybody signed binds from now on; the next version of one is taken into it, which keeps its number, its
 * stock and its papers. Inside the act's transaction.
 */
export function bindAgreement(db: Db, id: number, at: { now: string; day: Day }): void {
  const head = readAgreementHead(db, id)!;
  const into = head.changes ?? id;
  if (head.changes !== null) takeIn(db, head);
  sql(
    db,
    "UPDATE agreement SET state = 'Running', signed = ?, revision = revision + 1, version = version + 1 WHERE id = ?",
  ).run(at.now, into);
  const now = readAgreementHead(db, into)!;
  sql(db, "INSERT INTO agreement_revision (agreement, revision, at, document) VALUES (?, ?, ?, ?)").run(
    into,
    now.revision,
    at.now,
    JSON.stringify(agreementDocument(db, into)),
  );
}

/** The next version replaces what holds: terms, items, prices. What an item has on the shelf stays with it. */
function takeIn(db: Db, draft: AgreementHead): void {
  const into = draft.changes!;
  sql(
    db,
    `UPDATE agreement SET (starts, ends, ours_after, first, settles, bears, place, bins_from, bins_to, note) =
       (SELECT starts, ends, ours_after, first, settles, bears, place, bins_from, bins_to, note FROM agreement WHERE id = @from) WHERE id = @to`,
  ).run({ from: draft.id, to: into });
  sql(
    db,
    "UPDATE agreement_item SET gone = item NOT IN (SELECT item FROM agreement_item WHERE agreement = @from) WHERE agreement = @to",
  ).run({ from: draft.id, to: into });
  sql(
    db,
    `INSERT INTO agreement_item (agreement, item, least, most, pack, refill_days)
     SELECT @to, item, least, most, pack, refill_days FROM agreement_item WHERE agreement = @from
     ON CONFLICT (agreement, item) DO UPDATE SET least = excluded.least, most = excluded.most, pack = excluded.pack, refill_days = excluded.refill_days`,
  ).run({ from: draft.id, to: into });
  sql(
    db,
    "DELETE FROM agreement_price WHERE agreement_item IN (SELECT n.id FROM agreement_item n JOIN agreement_item x ON x.item = n.item WHERE n.agreement = @to AND x.agreement = @from)",
  ).run({ from: draft.id, to: into });
  sql(
    db,
    `INSERT INTO agreement_price (agreement_item, day, price)
     SELECT n.id, p.day, p.price FROM agreement_item x JOIN agreement_price p ON p.agreement_item = x.id JOIN agreement_item n ON n.item = x.item
     WHERE x.agreement = @from AND n.agreement = @to`,
  ).run({ from: draft.id, to: into });
  sql(db, "UPDATE agreement SET state = 'Taken in' WHERE id = ?").run(draft.id);
}
