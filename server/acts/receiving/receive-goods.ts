import { z } from "zod";
import type { OrderId, ReceiptId } from "../../../core/ids";
import { purchase, quantityText } from "../../../core/numbers/quantity";
import { isPlain, KIND_WORDS } from "../../../core/orders/kinds";
import { refuses } from "../../../core/orders/status";
import { judge } from "../../../core/receiving/count";
import type { Db } from "../../db/open";
import { type OrderHead, type OrderLine, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { CountedQuantity, Id, OrderIdField, text, Version } from "../fields";
import { servedBy, tellFollowers } from "../notices";
import { markEvent } from "../orders/marks";
import { receive } from "./receive";

export const ReceiveGoods = z.object({
  order: OrderIdField,
  version: Version,
  deliveryNote: text(60),
  lines: z.array(z.object({ line: Id, counted: CountedQuantity })).max(2000, "At most 2,000 lines."),
});

/** Takes a count into stock: purchase units become stock units, each with its movement; the order becomes Part in or All in. */
export function receiveGoods(desk: Desk, raw: unknown): Done<{ receipt: ReceiptId; number: string; state: string }> {
  const input = checked(ReceiveGoods, raw);
  if (!input.ok) return input;
  const { order, version, deliveryNote, lines: counts } = input.value;
  return once(desk, "count in", (tx) => {
    const head = readOrderHead(tx.db, order);
    if (!head) return refuse("", "There is no such order.");
    const no = refuses(head, "receive");
    if (no) return refuse("", no);
    if (!isPlain(head.kind))
      return refuse("", `${head.name} is a ${KIND_WORDS[head.kind]}: nothing of it comes to the dock.`);
    if (head.version !== version)
      return stale("Somebody else counted this order in meanwhile. Your count is still here; look at what is left.");
    const lines = new Map(readOrderLines(tx.db, order, head.currency).map((l) => [l.id, l]));
    const problems: Problem[] = [];
    counts.forEach(({ line: id, counted }, i) => {
      const line = lines.get(id);
      if (!line || line.kind === "charge") {
        problems.push({ field: `lines.${i}.counted`, says: "This line is not on this order." });
        return;
      }
      const judged = judge(
        { ordered: purchase(line.quantity - line.closedShort), received: purchase(line.received) },
        purchase(counted),
      );
      if (judged.kind === "over") {
        const keep = quantityText(counted - judged.over);
        problems.push({
          field: `lines.${i}.counted`,
          says: `${quantityText(judged.over)} more than was ordered. Count ${keep} in, set the rest aside and tell ${head.writerName}.`,
        });
      }
    });
    if (problems.length) return refuseAll(problems);
    const taken = counts.filter((c) => c.counted > 0);
    if (new Set(taken.map((c) => c.line)).size !== taken.length)
      return refuse("", "A line was counted twice on one sheet.");
    if (taken.length === 0) return refuse("", "Nothing has been counted yet.");
    const { store, storeName } = lines.get(taken[0]!.line)!;
    if (taken.some((c) => lines.get(c.line)!.store !== store))
      return refuse("", "These lines go to different stores: count what came to each on its own.");
    if (desk.person.store !== null && desk.person.store !== store)
      return refuse("", `This load goes to ${storeName}, not to your dock.`);
    const { receipt, number, state } = receive(tx.db, desk, {
      head,
      lines: [...lines.values()],
      came: taken.map((c) => ({ line: c.line, quantity: c.counted })),
      store,
      deliveryNote,
      passesBy: false,
    });
    const after = readOrderLines(tx.db, order, head.currency);
    if (state === "Part in") markEvent(tx.db, desk.now, order, "part in");
    tellAskers(tx.db, desk, order, head, new Set(taken.map((t) => t.line)), after);
    tx.record("goods.received", `order ${order}`, { number, receipt, deliveryNote, lines: taken, state });
    return done({ receipt, number, state });
  });
}

/** Only those are told whose lines came in with this load. */
function tellAskers(db: Db, desk: Desk, order: OrderId, head: OrderHead, taken: Set<number>, after: OrderLine[]): void {
  const came = after.filter((l) => taken.has(l.id));
  for (const a of servedBy(db, order)) {
    const theirs = came.filter((l) => l.serves.some((s) => s.requisition === a.requisition));
    if (theirs.length === 0) continue;
    const whole = theirs.every((l) => l.received >= l.quantity);
    const what = theirs.map((l) => l.words).join(", ");
    tellFollowers(
      db,
      desk.now,
      a.requisition,
      whole ? `Came in: ${what}` : `Came in in part: ${what}`,
      `order ${head.number}, at ${theirs[0]!.storeName}`,
    );
  }
}
