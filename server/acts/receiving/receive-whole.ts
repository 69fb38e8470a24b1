import { z } from "zod";
import type { StoreId } from "../../../core/ids";
import { openToCount } from "../../../core/receiving/count";
import { sql } from "../../db/open";
import { readOrderHead } from "../../queries/orders/order";
import { readLinesOfLoad } from "../../queries/receiving/count-lines";
import { checked, type Desk, type Done, done, once, refuse, refuseAll } from "../desk";
import { Id, OrderIdField, text, Version } from "../fields";
import { NOTHING_SAID, takeOrder } from "./receive-goods";

export const ReceiveWhole = z.object({
  deliveryNote: text(60).default(""),
  loads: z
    .array(
      z.object({
        order: OrderIdField,
        store: Id.transform((id) => id as StoreId /* where there is none, nothing is open */),
        version: Version,
      }),
    )
    .min(1, "Tick the loads that came whole.")
    .max(200, "At most 200 loads at once."),
});

/** Takes loads in as ordered, all that is open of each: all of them or none. A store that counts blind counts line by line. */
export function receiveWhole(desk: Desk, raw: unknown): Done<{ numbers: string[] }> {
  const input = checked(ReceiveWhole, raw);
  if (!input.ok) return input;
  const { deliveryNote, loads } = input.value;
  return once(desk, "count in", (tx) => {
    const numbers: string[] = [];
    const trail: object[] = [];
    for (const { order, store, version } of loads) {
      const name = readOrderHead(tx.db, order)?.name ?? "This order";
      if (sql(tx.db, "SELECT 1 FROM store WHERE id = ? AND blind = 1").get(store))
        return refuse("", `${name} comes to a store that counts blind: it is counted line by line.`);
      const open = readLinesOfLoad(tx.db, order, store).filter((l) => openToCount(l.counted) > 0);
      const taken = takeOrder(tx.db, desk, {
        order,
        version,
        deliveryNote,
        said: NOTHING_SAID,
        difference: "",
        lines: open.map((l) => ({
          line: l.line,
          counted: openToCount(l.counted),
          faulty: 0,
          fault: null,
          note: "",
          lot: "",
          bin: "",
          weight: null,
          expires: null,
        })),
      });
      if (!taken.ok)
        return {
          ...refuseAll(taken.problems.map((p) => ({ field: "", says: p.field ? `${name}: ${p.says}` : p.says }))),
          ...(taken.stale ? { stale: true } : {}),
        };
      numbers.push(taken.value.number);
      trail.push(taken.value.trail);
    }
    tx.record("load.received", "load", { deliveryNote, orders: trail });
    return done({ numbers });
  });
}
