import { describe, expect, it } from "vitest";
import { type OrderMoments, waited, waitFigures } from "./stops";

const order = (more: Partial<OrderMoments>): OrderMoments => ({
  written: "2026-11-02T08:00:00.000Z",
  submitted: null,
  cleared: null,
  placed: null,
  answered: null,
  came: null,
  billed: null,
  ...more,
});

describe("how long an order waits at each stop", () => {
  it("is from one moment to the next, and nothing where one of them has not come", () => {
    const o = order({
      submitted: "2026-11-02T09:30:00.000Z",
      cleared: "2026-11-03T09:30:00.000Z",
      placed: "2026-11-03T09:20:00.000Z",
      came: "2026-11-10T10:00:00.000Z",
    });
    expect([waited(o, "writing"), waited(o, "sign-off"), waited(o, "sending"), waited(o, "delivery")]).toEqual([
      90,
      24 * 60,
      0,
      7 * 24 * 60 + 40,
    ]);
    expect([waited(o, "answer"), waited(o, "invoice"), waited(order({}), "writing")]).toEqual([null, null, null]);
  });

  it("is added up over those that got so far, with what nine of ten took", () => {
    const orders = Array.from({ length: 10 }, (_, i) =>
      order({ submitted: `2026-11-02T08:${String(i + 1).padStart(2, "0")}:00.000Z` }),
    );
    expect(waitFigures([...orders, order({})], "writing")).toEqual({ count: 10, sum: 55, ninetieth: 9 });
    expect(waitFigures(orders, "delivery")).toBeNull();
  });
});
