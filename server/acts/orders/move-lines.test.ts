import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { usualPlan } from "../../queries/needs/need";
import { readNeeds } from "../../queries/needs/pool";
import { readMoves } from "../../queries/orders/moves";
import { readOrder, readOrderHead } from "../../queries/orders/order";
import { must, refusal, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import type { Done } from "../desk";
import { loadFile } from "../files/load-file";
import { keepTerms } from "../records/keep-terms";
import { moveLines } from "./move-lines";
import { submitOrder } from "./submit-order";
import { writeOrders } from "./write-orders";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
  const load = (who: string, kind: Parameters<typeof loadFile>[1], text: string) =>
    must(loadFile(h.desk(who), kind, Buffer.from(text), ".") as Done<unknown>);
  load("osk", "sourcing", "item,supplier,their_code,unit,factor,minimum,lead_days,rank\nOIL,BAW,B-46,keg,20,15,9,2\n");
  load("osk", "prices", "item,supplier,from,price\nOIL,BAW,1,70.00\n");
  load("ines", "needs", "item,store,quantity,needed_by\nROP,TQ,220,2026-12-20\nANO,TQ,10,2026-12-20\n");
});
afterEach(() => h.close());

const needs = () => readNeeds(h.db, usualPlan(TODAY, 9));
const write = () => must(writeOrders(h.desk("ines"), { picks: needs().map((n) => ({ need: n.key })) })).orders;
const ordersOf = (code: string) =>
  sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order WHERE supplier = ? ORDER BY id")
    .all(h.id("supplier", code))
    .map((o) => o.id);
const move = (order: OrderId, to: string, lines?: number[]) =>
  moveLines(h.desk("ines"), { order, version: versionOf(h.db, "purchase_order", order), to, lines });
const lineOf = (order: OrderId, item: string) => readOrder(h.db, order)!.lines.find((l) => l.code === item)!;

describe("moving lines between drafts", () => {
  it("buys a line as the other supplier sells it, with its need", () => {
    write();
    const [ttl] = ordersOf("TTL") as [OrderId];
    const [baw] = ordersOf("BAW") as [OrderId];
    const oil = lineOf(ttl, "OIL");
    expect(readMoves(h.db, readOrderHead(h.db, ttl)!)[oil.id]!.map((m) => m.to)).toEqual([
      `order:${baw}`,
      `supplier:${h.id("supplier", "TTL")}`,
      `supplier:${h.id("supplier", "BAW")}`,
    ]);
    expect(must(move(ttl, `order:${baw}`, [oil.id])).order).toBe(baw);
    const moved = lineOf(baw, "OIL");
    // Eight drums of 200 are eighty kegs of 20.
    expect([moved.quantity, moved.unit, moved.price, moved.theirCode]).toEqual([800_000, "keg", 70_000_000, "B-46"]);
    expect(moved.serves.map((s) => s.quantity)).toEqual(oil.serves.map((s) => s.quantity));
    expect(needs()).toEqual([]);
    expect(readOrder(h.db, ttl)!.lines.map((l) => l.code)).toEqual(["ROP"]);
    expect(brokenTruths(h.db)).toEqual([]);
  });

  it("moves all lines, and a draft that is left empty ends", () => {
    write();
    const [ttl] = ordersOf("TTL") as [OrderId];
    const rope = lineOf(ttl, "ROP").id;
    const apart = must(move(ttl, `supplier:${h.id("supplier", "TTL")}`, [rope])).order;
    expect(readOrder(h.db, apart)!.lines.map((l) => l.code)).toEqual(["ROP"]);
    must(move(apart, `order:${ttl}`));
    expect(readOrderHead(h.db, apart)).toBeNull();
    expect(
      readOrder(h.db, ttl)!
        .lines.map((l) => l.code)
        .sort(),
    ).toEqual(["OIL", "ROP"]);
    // One that was numbered before stays in the books.
    sql(h.db, "UPDATE purchase_order SET number = '26-9999' WHERE id = ?").run(ttl);
    const oil = lineOf(ttl, "OIL").id;
    const split = must(move(ttl, `supplier:${h.id("supplier", "TTL")}`, [oil])).order;
    must(move(ttl, `order:${split}`));
    expect(readOrderHead(h.db, ttl)!.state).toBe("Cancelled");
  });

  it("says who does not sell it, and moves nothing then", () => {
    write();
    const [ttl] = ordersOf("TTL") as [OrderId];
    const [baw] = ordersOf("BAW") as [OrderId];
    expect(refusal(move(ttl, `order:${baw}`))).toEqual(["to: Brannock does not sell Mooring rope."]);
    expect(readOrder(h.db, ttl)!.lines).toHaveLength(2);
    expect(refusal(move(ttl, "order:999"))).toEqual(["to: That order is no draft any more. Choose another."]);
    expect(refusal(move(ttl, "nowhere"))).toEqual(["to: Choose where to."]);
    expect(refusal(moveLines(h.desk("ines"), { order: ttl, version: 0, to: `order:${baw}` }))[0]).toMatch(
      /changed by somebody/,
    );
  });
});

describe("what a supplier asks of an order", () => {
  const terms = { minimum: "", freight: "", freeFrom: "", blocked: "" };
  const keep = (t: Partial<typeof terms>) =>
    keepTerms(h.desk("ines"), { supplier: h.id("supplier", "TTL"), ...terms, ...t });

  it("shows as freight on its orders, free from an amount on", () => {
    must(keep({ freight: "95", freeFrom: "7500.00" }));
    write();
    const [ttl] = ordersOf("TTL") as [OrderId];
    expect(readOrderHead(h.db, ttl)!.freight).toBe(9_500);
  });

  it("stops orders to somebody who is blocked", () => {
    write();
    const [ttl] = ordersOf("TTL") as [OrderId];
    must(keep({ blocked: "owes us three credits" }));
    expect(
      refusal(submitOrder(h.desk("ines"), { order: ttl, version: versionOf(h.db, "purchase_order", ttl) })),
    ).toEqual(["Tern & Tallow is blocked: owes us three credits. Move the lines to another supplier."]);
    expect(refusal(move(ordersOf("BAW")[0]!, `supplier:${h.id("supplier", "TTL")}`))[0]).toMatch(/is blocked/);
  });

  it("questions amounts that cannot be", () => {
    expect(refusal(keep({ minimum: "-5", freight: "12,5", freeFrom: "x" }))).toHaveLength(3);
    expect(refusal(keep({ freeFrom: "500" }))).toEqual(["freight: Say what the freight is where it is not free."]);
  });
});
