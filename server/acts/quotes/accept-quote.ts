import { z } from "zod";
import type { ItemId, SourcingId, SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { readQuote } from "../../queries/quotes/quotes";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { Id, Version } from "../fields";

interface AnswerRow {
  id: number;
  item: ItemId;
  name: string;
  supplier: SupplierId;
  supplierName: string;
  unit: string;
  factor: number;
  leadDays: number | null;
  validTo: string;
  accepted: string | null;
}

/**
 * Accepts answers line by line: each becomes a price of its supplier in its dates, before the price list (domain §5). A
 * supplier who never sold the item is set up for it, as the last choice.
 */
export function acceptAnswers(desk: Desk, raw: unknown): Done<{ accepted: number }> {
  const input = checked(
    z.object({ quote: Id, version: Version, answers: z.array(Id).min(1, "Tick an answer.").max(200) }),
    raw,
  );
  if (!input.ok) return input;
  const { quote, version, answers } = input.value;
  return once(desk, "write orders", (tx) => {
    const now = sql<{ version: number }>(tx.db, "SELECT version FROM quote WHERE id = ?").get(quote);
    // A supplier may correct their answer until it is used: nobody accepts a price that they do not see.
    if (now?.version !== version) return stale("Somebody answered meanwhile. Look at the prices once more.");
    const problems: Problem[] = [];
    for (const id of answers) {
      const a = sql<AnswerRow>(
        tx.db,
        `SELECT n.id, l.item, i.name, a.supplier, s.name AS supplierName, n.unit, n.factor, n.lead_days AS leadDays, n.valid_to AS validTo, n.accepted
         FROM quote_answer n JOIN quote_asked a ON a.id = n.asked JOIN quote_line l ON l.id = n.line JOIN item i ON i.id = l.item
         JOIN supplier s ON s.id = a.supplier WHERE n.id = ? AND a.quote = ?`,
      ).get(id, quote);
      if (!a) return stale("One of the answers is not there any more. Load the page again.");
      if (a.accepted) continue;
      if (a.validTo < desk.day) {
        problems.push({
          field: String(id),
          says: `The price of ${a.supplierName} for ${a.name} has ended. Ask again.`,
        });
        continue;
      }
      const sourcing = sourcingFor(tx.db, a);
      if (sourcing === null) {
        problems.push({
          field: String(id),
          says: `${a.supplierName} sold ${a.name} in another unit before; the units must be the same. Ask them again.`,
        });
        continue;
      }
      sql(tx.db, "UPDATE quote_answer SET accepted = ?, accepted_by = ?, sourcing = ? WHERE id = ?").run(
        desk.now,
        desk.person.id,
        sourcing,
        id,
      );
    }
    if (problems.length) return refuseAll(problems);
    sql(tx.db, "UPDATE quote SET version = version + 1 WHERE id = ?").run(quote);
    tx.record("quote.accepted", `quote ${quote}`, { answers });
    return done({ accepted: answers.length });
  });
}

/** The record that the price belongs to; made where there is none. Null where it sells in another unit. */
function sourcingFor(db: Db, a: AnswerRow): number | null {
  const known = sql<{ id: SourcingId; unit: string; factor: number }>(
    db,
    "SELECT id, unit, factor FROM sourcing WHERE item = ? AND supplier = ?",
  ).get(a.item, a.supplier);
  if (known) {
    if (known.unit !== a.unit || known.factor !== a.factor) return null;
    sql(db, "UPDATE sourcing SET active = 1 WHERE id = ? AND active = 0").run(known.id);
    return known.id;
  }
  const { rank } = sql<{ rank: number }>(
    db,
    "SELECT coalesce(max(rank), 0) + 1 AS rank FROM sourcing WHERE item = ?",
  ).get(a.item)!;
  return Number(
    sql(db, "INSERT INTO sourcing (item, supplier, unit, factor, lead_days, rank) VALUES (?, ?, ?, ?, ?, ?)").run(
      a.item,
      a.supplier,
      a.unit,
      a.factor,
      a.leadDays ?? 14,
      rank,
    ).lastInsertRowid,
  );
}

/** Ends a request, or one supplier's link: nobody can answer any more. What was accepted stays. */
export function endQuote(desk: Desk, raw: unknown): Done<{ ended: true }> {
  const input = checked(z.object({ quote: Id, asked: Id.optional() }), raw);
  if (!input.ok) return input;
  const { quote, asked } = input.value;
  return once(desk, "write orders", (tx) => {
    const sheet = readQuote(tx.db, quote, desk.day);
    if (!sheet) return refuse("", "There is no such request.");
    const { changes } =
      asked === undefined
        ? sql(tx.db, "UPDATE quote SET ended = ?, version = version + 1 WHERE id = ? AND ended IS NULL").run(
            desk.now,
            quote,
          )
        : sql(tx.db, "UPDATE quote_asked SET ended = ? WHERE id = ? AND quote = ? AND ended IS NULL").run(
            desk.now,
            asked,
            quote,
          );
    if (changes === 0) return refuse("", "This was ended already.");
    tx.record("quote.ended", `quote ${quote}`, { asked: asked ?? "all" });
    return done({ ended: true });
  });
}
