import { z } from "zod";
import type { OrderLineId, ReceiptId, StoreId } from "../../../core/ids";
import { isPlain, KIND_WORDS } from "../../../core/orders/kinds";
import { refuses } from "../../../core/orders/status";
import { totalDifferences } from "../../../core/receiving/control-totals";
import { type Db, sql } from "../../db/open";
import { type OrderHead, type OrderLine, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { OrderIdField, orNone, QuantityOrNone, text, Version, Whole } from "../fields";
import { markEvent } from "../orders/marks";
import { CountedPart, judgeParts, totalsOf } from "./judge-count";
import { receive } from "./receive";
import { tellJobs, tellOfGoods, tellWriter } from "./tell-of-goods";

export const NOTHING_SAID = { lines: null, pieces: null, weight: null };

export const ReceiveGoods = z.object({
  order: OrderIdField,
  version: Version,
  deliveryNote: text(60),
  /** What the delivery note says came in all; what is not said is empty. */
  said: z
    .object({ lines: orNone(Whole(0, 2000)).default(null), pieces: QuantityOrNone, weight: QuantityOrNone })
    .default(NOTHING_SAID),
  /** Why the count says otherwise. */
  difference: text(300).default(""),
  lines: z.array(CountedPart).max(2000, "At most 2,000 lines."),
});

/** What came of an order: what was taken in, and what waits or goes back. */
export interface TakenLoad {
  receipt: ReceiptId;
  number: string;
  state: string;
}

/**
 * Takes a count in by its tolerances: what may be kept becomes stock, each with its movement; what is beyond, too early or
 * not good is set aside and waits, or goes back at once (domain-goods §11, §12).
 */
export function receiveGoods(desk: Desk, raw: unknown): Done<TakenLoad> {
  const input = checked(ReceiveGoods, raw);
  if (!input.ok) return input;
  return once(desk, "count in", (tx) => {
    const taken = takeOrder(tx.db, desk, input.value);
    if (!taken.ok) return taken;
    const { trail, ...load } = taken.value;
    tx.record("goods.received", `order ${input.value.order}`, trail);
    return done(load);
  });
}

export const ReceiveLoad = z.object({
  deliveryNote: text(60),
  /** Why the same delivery note comes once more. */
  difference: text(300).default(""),
  orders: z
    .array(
      z.object({
        order: OrderIdField,
        version: Version,
        lines: z.array(CountedPart).max(2_000, "At most 2,000 lines."),
      }),
    )
    .min(1, "Nothing has been counted yet.")
    .max(200, "At most 200 orders at once."),
});

/** Takes a load in that holds goods of several orders: all of it or nothing, a receipt for each order. */
export function receiveLoad(desk: Desk, raw: unknown): Done<{ loads: TakenLoad[] }> {
  const input = checked(ReceiveLoad, raw);
  if (!input.ok) return input;
  const { deliveryNote, difference, orders } = input.value;
  return once(desk, "count in", (tx) => {
    if (new Set(orders.map((o) => o.order)).size < orders.length) return refuse("", "An order stands here twice.");
    const taken: (TakenLoad & { trail: object })[] = [];
    for (const [i, o] of orders.entries()) {
      const one = takeOrder(tx.db, desk, { ...o, deliveryNote, said: NOTHING_SAID, difference });
      if (!one.ok)
        return {
          ...one,
          problems: one.problems.map((p) => ({ ...p, field: p.field ? `orders.${i}.${p.field}` : "" })),
        };
      taken.push(one.value);
    }
    tx.record("load.received", "load", { deliveryNote, orders: taken.map((t) => t.trail) });
    return done({ loads: taken.map(({ receipt, number, state }) => ({ receipt, number, state })) });
  });
}

/** Takes in what was counted of one order. Call inside the act's transaction, which writes the trail it gives. */
export function takeOrder(
  db: Db,
  desk: Desk,
  { order, version, deliveryNote, said, difference, lines: counts }: z.output<typeof ReceiveGoods>,
): Done<TakenLoad & { trail: object }> {
  const head = readOrderHead(db, order);
  if (!head) return refuse("", "There is no such order.");
  const no = notExpected(head);
  if (no) return refuse("", no);
  if (head.version !== version)
    return stale(
      `${head.name} was counted or changed by somebody else meanwhile. Your count is still here; look at what is left.`,
    );
  const lines = readOrderLines(db, order, head.currency);
  const judged = judgeParts(db, desk, lines, counts);
  if (!judged.ok) return judged;
  const { came, aside } = judged.value;
  const off = [...totalDifferences(said, totalsOf(db, lines, counts)), ...sameNote(db, desk, head, deliveryNote)];
  if (off.length && difference.length < 3) return refuse("difference", `${off.join(" ")} Say why.`);
  const store = storeOf(desk, lines, [...came, ...aside]);
  if (!store.ok) return store;
  const { receipt, number, state } = receive(db, desk, {
    head,
    lines,
    came,
    aside,
    store: store.value,
    deliveryNote,
    said: { ...said, difference: off.length ? difference : "" },
    passesBy: false,
  });
  if (state === "Part in") markEvent(db, desk.now, order, "part in");
  sql(db, "UPDATE announced SET receipt = ? WHERE purchase_order = ? AND number = ? AND receipt IS NULL").run(
    receipt,
    order,
    deliveryNote,
  );
  const after = readOrderLines(db, order, head.currency);
  tellOfGoods(db, desk, order, head, receipt, new Set(came.map((t) => t.line)), after);
  tellJobs(db, desk, head, receipt);
  tellWriter(db, desk, head, lines, aside);
  return done({ receipt, number, state, trail: { order, number, receipt, deliveryNote, lines: came, aside, state } });
}

/** A delivery note that was counted in already is asked about: this may be more of it, or the same once more. */
function sameNote(db: Db, desk: Desk, head: OrderHead, note: string): string[] {
  if (note === "") return [];
  const before = sql<{ number: string }>(
    db,
    `SELECT r.number FROM receipt r
     WHERE r.delivery_note = ? COLLATE NOCASE AND r.purchase_order = ? AND r.at <> ? AND EXISTS (SELECT 1 FROM receipt_line_now x WHERE x.receipt = r.id AND x.undone < x.quantity) LIMIT 1`,
  ).get(note, head.id, desk.now); // not with the others of this very load
  return before ? [`Delivery note ${note} was counted in with ${before.number} already.`] : [];
}

/** Why nothing of an order is counted in on a dock; null where it is. */
function notExpected(head: OrderHead): string | null {
  if (!isPlain(head.kind)) return `${head.name} is a ${KIND_WORDS[head.kind]}: nothing of it comes to the dock.`;
  return refuses(head, "receive");
}

/** The one store to which a load goes, where it is this person's to count. */
function storeOf(desk: Desk, all: readonly OrderLine[], counted: readonly { line: OrderLineId }[]): Done<StoreId> {
  const of = all.filter((l) => counted.some((c) => c.line === l.id));
  const { store, storeName } = of[0]!;
  if (of.some((l) => l.store !== store))
    return refuse("", "These lines go to different stores: count what came to each on its own.");
  if (desk.person.store !== null && desk.person.store !== store)
    return refuse("", `This load goes to ${storeName}, not to your dock.`);
  return done(store);
}
