import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { ONE } from "../numbers/quantity";
import { fillSchedule, openOf, planInstalments, refitInstalments, type Scheduled } from "./schedule";

const part = (quantity: number, day: string) => ({ quantity: quantity * ONE, required: toDay(day) });
const row = (quantity: number, day: string, more: Partial<Scheduled> = {}): Scheduled => ({
  quantity,
  required: toDay(day),
  promised: null,
  received: 0,
  closedShort: 0,
  ...more,
});

describe("instalments as typed", () => {
  it("stand by their days", () => {
    const planned = planInstalments([part(2, "2027-01-10"), part(4, "2026-12-10"), part(2, "2027-02-10")], 8 * ONE);
    expect(planned.ok && planned.plan.map((p) => p.quantity / ONE)).toEqual([4, 2, 2]);
    expect(planInstalments([part(8, "2027-01-10")], 8 * ONE)).toEqual({ ok: true, plan: [] });
  });
  it("that do not add up say by how much", () => {
    expect(planInstalments([part(2, "2027-01-10"), part(4, "2026-12-10")], 8 * ONE)).toEqual({
      ok: false,
      says: "The instalments come to 6, which is 2 less than the 8 of the line.",
    });
  });
  it("follow another quantity with their last, as long as something is left for it", () => {
    const plan = [part(4, "2026-12-10"), part(2, "2027-01-10")];
    const more = refitInstalments(plan, 9 * ONE);
    expect(more.ok && more.plan.map((p) => p.quantity / ONE)).toEqual([4, 5]);
    expect(refitInstalments(plan, 4 * ONE)).toEqual({
      ok: false,
      says: "The first 1 loads come to 4 already. Change them, too.",
    });
    expect(refitInstalments([], ONE)).toEqual({ ok: true, plan: [] });
  });
});

describe("what comes", () => {
  it("fills the earliest due first, by what was last promised", () => {
    const rows = [
      row(4, "2026-12-10", { promised: toDay("2027-01-20") }),
      row(2, "2027-01-10"),
      row(2, "2026-12-24", { received: 1 }),
    ];
    expect(fillSchedule(rows, 2)).toEqual([0, 1, 1]);
    expect(fillSchedule(rows, 7)).toEqual([4, 2, 1]);
  });
  it("beyond what is open is the last one’s", () => {
    expect(fillSchedule([row(4, "2026-12-10"), row(2, "2027-01-10")], 8)).toEqual([4, 4]);
    expect(fillSchedule([row(4, "2026-12-10", { closedShort: 4 })], 1)).toEqual([1]);
  });
  it("is shared out whole, and leaves open exactly what has not come", () => {
    const rows = fc.array(
      fc.record({
        quantity: fc.integer({ min: 1, max: 1_000 }),
        required: fc.constantFrom("2026-12-01", "2026-12-08", "2027-01-05").map(toDay),
        promised: fc.option(fc.constantFrom("2026-12-04", "2027-02-01").map(toDay)),
        received: fc.constant(0),
        closedShort: fc.constant(0),
      }),
      { minLength: 1, maxLength: 6 },
    );
    fc.assert(
      fc.property(rows, fc.nat(4_000), (schedule, came) => {
        const parts = fillSchedule(schedule, came);
        expect(parts.reduce((a, b) => a + b, 0)).toBe(came);
        const after = schedule.map((s, i) => ({ ...s, received: parts[i]! }));
        const all = schedule.reduce((a, s) => a + s.quantity, 0);
        expect(after.reduce((a, s) => a + openOf(s), 0)).toBe(Math.max(0, all - came));
      }),
    );
  });
});
