import { z } from "zod";
import type { OrderId } from "../../../core/ids";
import { placingFrom } from "../../../core/placing/choice";
import { covers } from "../../../core/placing/problem";
import { reckonPlacing } from "../../../core/placing/reckon";
import { sql } from "../../db/open";
import { needNow } from "../../queries/needs/one";
import { groundOf, withSource } from "../../queries/needs/plan";
import { readSource } from "../../queries/needs/positions";
import { planOfBench, readBench } from "../../queries/placing/bench";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { Id, Version } from "../fields";
import { type NewLine, servedByLines, writeLines } from "../orders/write-lines";

export const WriteBench = z.object({
  bench: Id,
  /** As the preview showed it. */
  version: Version,
  mark: z.string().max(40),
});

/**
 * Writes what a bench comes to: a draft for each supplier and store, or lines onto the drafts they join. The needs leave
 * the bench and the pool; rows without a supplier stay where they are.
 */
export function writeBench(desk: Desk, raw: unknown): Done<{ orders: OrderId[]; left: number }> {
  const input = checked(WriteBench, raw);
  if (!input.ok) return input;
  const { bench, version, mark } = input.value;
  return once(desk, "write orders", (tx) => {
    const sheet = readBench(tx.db, bench, desk.day, desk.hour);
    if (!sheet || sheet.head.cleared) return refuse("", "This bench was put away meanwhile.");
    if (sheet.head.version !== version || sheet.mark !== mark)
      return stale("The bench, a need or a price changed since this was shown. Look at it again before it is written.");
    const plan = planOfBench(sheet.head, desk.day, desk.hour);
    const g = groundOf(tx.db, plan, false);
    const reckoned = reckonPlacing(sheet.problem, placingFrom(sheet.problem.rows, sheet.choices));
    if (reckoned.orders.length === 0) return refuse("", "No row has a supplier yet. Choose one, or take a plan.");
    const problems: Problem[] = sheet.lost.map((l) => ({ field: l.key, says: l.says }));
    const left = new Map<string, { key: string; wanted: number }[]>();
    const groups: { onto: OrderId | null; lines: NewLine[] }[] = [];
    // In the order of the stores, in which what is left of a blanket order was given out.
    for (const order of reckoned.orders.toSorted((a, b) => a.store - b.store)) {
      const lines: NewLine[] = [];
      for (const { row, offer, buy } of order.lines) {
        const need = needNow(tx.db, plan, row.id);
        if (!need) return stale(`${row.name} was taken by somebody else meanwhile. Look at the bench again.`);
        const sourcing = sheet.rows[row.id]!.sourcings[offer.supplier];
        const source = sourcing === undefined ? null : readSource(tx.db, sourcing);
        if (sourcing !== undefined && !source) {
          problems.push({ field: row.id, says: `${order.terms.name} does not sell ${row.name} any more.` });
          continue;
        }
        const open = left.get(row.id) ?? servedByLines(need);
        const alone = sheet.choices[row.id]!.length === 1;
        const serves = take(open, alone ? Number.POSITIVE_INFINITY : covers(offer, buy));
        left.set(row.id, open);
        lines.push({ need: source ? withSource(g, need, source) : need, quantity: buy, serves });
      }
      const draft = sheet.drafts.find((d) => d.joined && d.supplier === order.supplier && d.store === order.store);
      groups.push({ onto: draft?.id ?? null, lines });
    }
    if (problems.length) return refuseAll(problems);
    const orders = groups.map(({ onto, lines }) => writeLines(tx.db, desk, lines, onto));
    const written = [...new Set(reckoned.orders.flatMap((o) => o.lines.map((l) => l.row.id)))];
    const off = sql(tx.db, "DELETE FROM bench_row WHERE need = ?");
    const forget = sql(tx.db, "DELETE FROM need_choice WHERE need = ?");
    for (const key of written) {
      off.run(key);
      forget.run(key);
    }
    const rest = sheet.problem.rows.length + sheet.gone.length - written.length;
    sql(tx.db, "UPDATE bench SET version = version + 1, cleared = iif(?, NULL, ?) WHERE id = ?").run(
      rest > 0 ? 1 : 0,
      desk.now,
      bench,
    );
    tx.record("bench.written", `bench ${bench}`, { orders, needs: written, cost: reckoned.cost });
    return done({ orders, left: rest });
  });
}

/** Takes so much off the head of what is open, and says of which needs. */
function take(open: { key: string; wanted: number }[], most: number): { key: string; wanted: number }[] {
  const taken: { key: string; wanted: number }[] = [];
  let left = most;
  for (const o of open) {
    const wanted = Math.min(o.wanted, left);
    if (wanted <= 0) continue;
    taken.push({ key: o.key, wanted });
    o.wanted -= wanted;
    left -= wanted;
  }
  return taken;
}
