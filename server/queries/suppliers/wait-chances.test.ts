import { afterEach, beforeEach, expect, it } from "vitest";
import { addDays } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import { comesOut } from "../../../core/sums/sum";
import { waitSum } from "../../../core/suppliers/chance";
import { loadFile } from "../../acts/files/load-file";
import { changePlaced } from "../../acts/orders/change-placed";
import { placeOrder } from "../../acts/orders/place-order";
import { submitOrder } from "../../acts/orders/submit-order";
import { writeOrders } from "../../acts/orders/write-orders";
import { receiveGoods } from "../../acts/receiving/receive-goods";
import { saveRequisition, startRequisition, submitRequisition } from "../../acts/requisitions/raise-requisition";
import { sql } from "../../db/open";
import { must, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { readNeeds, usualPlan } from "../needs/needs";
import { readNeedSlip } from "../needs/slip";
import { readOrder } from "../orders/order";
import { chancesOfAsked } from "./wait-chances";
import { rowsWithChances } from "./with-chances";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const DUE = addDays(TODAY, 10);

/** Brannock's past: eight receipts of anodes, so many days after they were promised. */
function past(days: readonly number[]): void {
  const promised = addDays(TODAY, -30);
  const rows = days.map((_, i) => `H-${i},BAW,TQ,ANO,1,${promised},${promised},18.40\n`).join("");
  const file = `order,supplier,store,item,quantity,required,promised,price\n${rows}`;
  must(loadFile(h.desk("osk"), "orders", Buffer.from(file), "."));
  for (const [i, d] of days.entries()) {
    const { id } = sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order WHERE brought = ?").get(`H-${i}`)!;
    const line = readOrder(h.db, id)!.lines[0]!.id;
    must(
      receiveGoods(
        { ...h.desk("tobias"), day: addDays(promised, d) },
        { ...at(id), deliveryNote: "", lines: [{ line, counted: "1" }] },
      ),
    );
  }
}

/** Joss asks for 20 anodes in ten days: the key of the need. */
function asked(): { requisition: number; key: string } {
  const { requisition } = must(startRequisition(h.desk("joss")));
  const line = { item: h.id("item", "ANO"), words: "", quantity: "20", estimate: "" };
  const paper = { requisition, version: 1, store: h.id("store", "TQ"), neededBy: DUE, reason: "Refit" };
  must(saveRequisition(h.desk("joss"), { ...paper, lines: [line] }));
  must(submitRequisition(h.desk("joss"), { requisition, version: 2 }));
  return { requisition, key: readNeeds(h.db, usualPlan(TODAY)).find((n) => n.requisition?.id === requisition)!.key };
}
const chances = (requisition: number, names = true) =>
  Object.values(chancesOfAsked(h.db, requisition, DUE, TODAY, names));

it("a line of a requisition says how likely all that it waits for is here on its day, load by load", async () => {
  past([-1, 0, 0, 1, 2, 3, 12, 20]);
  const { requisition, key } = asked();
  expect(chances(requisition)).toEqual([]);
  const [order] = must(writeOrders(h.desk("ines"), { picks: [{ need: key, quantity: "20" }] })).orders;
  expect(chances(requisition)).toEqual([{ loads: null, basisPoints: null }]);
  must(submitOrder(h.desk("ines"), at(order!)));
  must(await placeOrder(h.desk("ines"), at(order!)));
  const { id: line } = readOrder(h.db, order!)!.lines[0]!;
  // 12 on the day before it is needed, 8 on the day itself.
  const parts = [
    { quantity: "12", day: addDays(DUE, -1) },
    { quantity: "8", day: DUE },
  ];
  must(changePlaced(h.desk("ines"), { ...at(order!), reason: "in two", lines: [{ line, parts }] }));
  const [found] = chances(requisition);
  // One day late at most: 4 of 8; none late: 3 of 8. 4.5 ÷ 9 × 3.5 ÷ 9.
  expect(found!.loads!.map((l) => [l.what, l.k, l.n])).toEqual([
    ["Hull anode, Brannock, Thu 3 Dec", 4, 8],
    ["Hull anode, Brannock, Fri 4 Dec", 3, 8],
  ]);
  expect(found!.basisPoints).toBe(1_944);
  const sum = waitSum("In time", found!.loads!);
  expect([comesOut(sum), sum.steps.at(-1)!.figure]).toEqual([true, { kind: "percent", basisPoints: 1_944 }]);
  // Whoever does not see orders is told nobody's name.
  expect(chances(requisition, false)[0]!.loads![0]!.what).toBe("Hull anode, Thu 3 Dec");
  // What came waits for nothing more.
  must(receiveGoods(h.desk("tobias"), { ...at(order!), deliveryNote: "", lines: [{ line, counted: "12" }] }));
  expect(chances(requisition)[0]!.loads).toHaveLength(1);
  must(receiveGoods(h.desk("tobias"), { ...at(order!), deliveryNote: "", lines: [{ line, counted: "8" }] }));
  expect(chances(requisition)).toEqual([]);
});

it("an order with its supplier shows the part of it that is least likely in time", () => {
  past([-1, 0, 0, 1, 2, 3, 12, 20]);
  const row = (store: string, promised: string) => `N-2,BAW,${store},ANO,1,${DUE},${promised},18.40\n`;
  const head = "order,supplier,store,item,quantity,required,promised,price\n";
  const file = `${head}N-1,BAW,TQ,ANO,1,${DUE},${DUE},18.40\n${row("TQ", addDays(DUE, 3))}`;
  must(loadFile(h.desk("osk"), "orders", Buffer.from(file), "."));
  const of = (brought: string) => {
    const { id } = sql<{ id: number }>(h.db, "SELECT id FROM purchase_order WHERE brought = ?").get(brought)!;
    return rowsWithChances(h.db, TODAY).find((r) => r.id === id)!.chance;
  };
  // On its day: 3 of 8 (3.5 ÷ 9). Three days after it, none was three days early: 0.5 ÷ 9.
  expect([of("N-1"), of("N-2")]).toEqual([3_889, 556]);
  // Once its day has passed, it is not in time, whatever is said of the rest.
  sql(h.db, "UPDATE order_schedule SET requested = ? WHERE promised = ?").run(addDays(TODAY, -1), addDays(DUE, 3));
  expect([of("N-1"), of("N-2")]).toEqual([3_889, null]);
});

it("a need says how likely it is here by its day if it is ordered today, at each supplier", () => {
  past([-1, 0, 0, 1, 2, 3, 12, 20]);
  const { key } = asked();
  const slip = readNeedSlip(h.db, usualPlan(TODAY), key, h.id("person", "ines"))!;
  // Twelve days on the way, needed in ten: none of eight came two days early.
  expect(slip.arrives).toBe(addDays(TODAY, 12));
  expect(slip.chance).toMatchObject({ by: DUE, promised: slip.arrives, chance: { k: 0, n: 8, basisPoints: 556 } });
  expect(slip.offers.map((o) => [o.supplier, o.chance?.basisPoints])).toEqual([["Brannock", 556]]);
});
