import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  answeredOf,
  invoicedOf,
  type LineFacts,
  ORDER_STAGES,
  type OrderFacts,
  type OrderStage,
  orderStatus,
  receivedOf,
  refuses,
  stageAfter,
} from "./status";

const line = (received: number, more: Partial<LineFacts> = {}): LineFacts => ({
  answered: false,
  ordered: 5,
  received,
  closedShort: 0,
  ...more,
});
const placed = (...lines: LineFacts[]): OrderFacts => ({ stage: "placed", closedByHand: false, lines });

describe("what may be done to an order", () => {
  const at = (stage: OrderStage) => ({
    stage,
    state: orderStatus({ stage, closedByHand: false, lines: [] }),
    name: "26-1192",
  });
  it("locks it while it is being signed", () => {
    expect(refuses(at("in sign-off"), "edit")).toBe("26-1192 is being signed off, and nobody can change it meanwhile.");
    expect(refuses(at("cleared"), "revise")).toBeNull();
    expect(refuses(at("closed"), "receive")).toBe("26-1192 is all in: it is not expected on the dock.");
  });
  it("deletes drafts and nothing else, and receives only what was placed", () => {
    expect(ORDER_STAGES.filter((s) => refuses(at(s), "delete") === null)).toEqual(["draft"]);
    expect(ORDER_STAGES.filter((s) => refuses(at(s), "receive") === null)).toEqual(["placed"]);
  });
});

describe("where an order stands", () => {
  it("follows from what the supplier answered until something comes", () => {
    expect(orderStatus(placed(line(0), line(0)))).toBe("With supplier");
    expect(orderStatus(placed(line(0, { answered: true }), line(0)))).toBe("Confirmed in part");
    expect(orderStatus(placed(line(0, { answered: true }), line(0, { answered: true })))).toBe("Confirmed");
  });
  it("does not forget, when a part comes, that it was confirmed", () => {
    const lines = [line(5, { answered: true }), line(0, { answered: true })];
    expect(orderStatus(placed(...lines))).toBe("Part in");
    expect(answeredOf(lines)).toBe("all");
    expect(orderStatus(placed(...lines.map((l) => ({ ...l, received: 0 }))))).toBe("Confirmed");
  });
  it("is closed by itself when nothing is to come, and placed again when something is", () => {
    expect(stageAfter(placed(line(5), line(5)))).toBe("closed");
    expect(orderStatus({ ...placed(line(5)), stage: "closed" })).toBe("All in");
    expect(stageAfter({ ...placed(line(3)), stage: "closed" })).toBe("placed");
    expect(stageAfter({ ...placed(line(3)), stage: "closed", closedByHand: true })).toBe("closed");
    expect(orderStatus({ ...placed(line(3)), stage: "closed", closedByHand: true })).toBe("Closed short");
  });
  it("is invoiced as far as what came of it is", () => {
    const of = (...lines: [number, number][]) =>
      invoicedOf(lines.map(([received, invoiced]) => ({ received, invoiced })));
    expect(of([5, 0], [0, 0])).toBe("none");
    expect(of([5, 2], [0, 0])).toBe("part");
    expect(of([5, 5], [3, 0])).toBe("part");
    expect(of([5, 5], [0, 0])).toBe("all"); // the rest will not come, or is on its way
    expect(of()).toBe("none");
  });
  it("counts a line that was closed short as come, and one of which nothing is left as none", () => {
    expect(receivedOf([line(3, { closedShort: 2 }), line(5)])).toBe("all");
    expect(receivedOf([line(0, { closedShort: 5 }), line(0)])).toBe("none");
    expect(answeredOf([line(0, { closedShort: 5 }), line(0, { answered: true })])).toBe("all");
  });
  it("has one word for any facts, and settling twice changes nothing", () => {
    const facts = fc.record({
      stage: fc.constantFrom(...ORDER_STAGES),
      closedByHand: fc.boolean(),
      lines: fc.array(
        fc.record({
          answered: fc.boolean(),
          ordered: fc.integer({ min: 1, max: 9 }),
          received: fc.integer({ min: 0, max: 12 }),
          closedShort: fc.integer({ min: 0, max: 3 }),
        }),
        { maxLength: 4 },
      ),
    });
    fc.assert(
      fc.property(facts, (f) => {
        const stage = stageAfter(f);
        expect(stageAfter({ ...f, stage })).toBe(stage);
        expect(orderStatus({ ...f, stage })).toBeTruthy();
      }),
    );
  });
});
