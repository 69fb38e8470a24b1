import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, toDay } from "../calendar/day";
import { unitPrice } from "../numbers/money";
import type { Scheduled } from "../orders/schedule";
import {
  answerDifferences,
  partsLeft,
  type SaidOfLine,
  type SaidPart,
  saidFault,
  standingParts,
  takenSchedule,
} from "./answer";

const TODAY = toDay("2026-11-27");
const day = (n: number) => addDays(TODAY, n);
const row = (quantity: number, required: number, more: Partial<Scheduled> = {}): Scheduled => ({
  quantity,
  required: day(required),
  promised: null,
  received: 0,
  closedShort: 0,
  ...more,
});
const AS_ORDERED: SaidOfLine = { parts: null, price: null, discount: null, instead: "", charge: null, remark: "" };
const said = (parts: SaidPart[], more: Partial<SaidOfLine> = {}): SaidOfLine => ({ ...AS_ORDERED, parts, ...more });
const line = (...schedule: Scheduled[]) => ({ schedule, price: unitPrice(18_400_000), discount: 0, charges: [] });

describe("what is said against what stands", () => {
  it("is a charge besides, unless that stands on the order already, or nothing comes", () => {
    const charge = { words: "Pallets", price: unitPrice(12_500_000) };
    const adds = (parts: SaidPart[] | null, charges = [charge]) =>
      answerDifferences({ ...line(row(50, 7)), charges }, { ...AS_ORDERED, parts, charge });
    expect(adds(null, [])).toEqual([{ kind: "charge", ...charge }]);
    expect(adds(null)).toEqual([]);
    expect(adds(null, [{ ...charge, price: unitPrice(13_000_000) }])).toHaveLength(1);
    expect(adds([], [])).toEqual([{ kind: "cannot", quantity: 50 }]);
  });

  it("is as ordered where nothing differs, however it is said", () => {
    expect(answerDifferences(line(row(50, 7)), AS_ORDERED)).toEqual([]);
    expect(
      answerDifferences(line(row(50, 7)), said([{ quantity: 50, day: day(7) }], { price: unitPrice(18_400_000) })),
    ).toEqual([]);
  });

  it("names the part that comes later, as of 50 that were promised on one day 20 come on another", () => {
    const split = said([
      { quantity: 30, day: day(7) },
      { quantity: 20, day: day(34) },
    ]);
    expect(answerDifferences(line(row(50, 1, { promised: day(7) })), split)).toEqual([
      { kind: "days", quantity: 20, of: 50, by: 27, parts: 2 },
    ]);
  });

  it("is less or more, dearer, another item, or nothing at all", () => {
    const changed = said([{ quantity: 6, day: day(7) }], { price: unitPrice(18_250_000), instead: "FF-11" });
    expect(answerDifferences(line(row(8, 7)), changed)).toEqual([
      { kind: "quantity", from: 8, to: 6 },
      { kind: "price", from: 18_400_000, to: 18_250_000 },
      { kind: "instead", words: "FF-11" },
    ]);
    expect(answerDifferences(line(row(8, 7)), said([]))).toEqual([{ kind: "cannot", quantity: 8 }]);
  });

  it("is sooner only where nothing is later", () => {
    const parts = [
      { quantity: 4, day: day(3) },
      { quantity: 4, day: day(9) },
    ];
    expect(answerDifferences(line(row(8, 7)), said(parts))[0]).toMatchObject({ quantity: 8, by: 2 });
    expect(answerDifferences(line(row(8, 7)), said([{ quantity: 8, day: day(3) }]))[0]).toMatchObject({ by: -4 });
  });
});

describe("what nobody can mean", () => {
  it.each<[string, Scheduled[], SaidPart[], string]>([
    ["a day that has passed", [row(8, 7)], [{ quantity: 8, day: day(-1) }], "passed"],
    ["nothing as a part", [row(8, 7)], [{ quantity: 0, day: day(7) }], "nothing"],
    ["far more than is open", [row(8, 7)], [{ quantity: 17, day: day(7) }], "tooMuch"],
    ["one day twice", [row(8, 7)], [3, 5].map((quantity) => ({ quantity, day: day(7) })), "sameDay"],
    ["a line that is all in", [row(8, 7, { received: 8 })], [{ quantity: 8, day: day(7) }], "notOpen"],
  ])("is %s", (_, schedule, parts, says) => {
    expect(saidFault(line(...schedule), said(parts), TODAY)).toBe(says);
  });

  it("and as it stands, where a day of it has passed", () => {
    expect(saidFault(line(row(4, -2), row(4, 7)), AS_ORDERED, TODAY)).toBe("passed");
    expect(saidFault(line(row(4, -2, { received: 4 }), row(4, 7)), AS_ORDERED, TODAY)).toBeNull();
  });

  it("but twice as much, today, and nothing at all can be looked at", () => {
    expect(saidFault(line(row(8, 7)), said([{ quantity: 16, day: TODAY }]), TODAY)).toBeNull();
    expect(saidFault(line(row(8, 7)), said([]), TODAY)).toBeNull();
  });
});

describe("a schedule after an answer was taken", () => {
  it("keeps what came under the day it was promised, and asks for the rest as before", () => {
    const before = [row(30, 3, { promised: day(4), received: 10 }), row(20, 14)];
    expect(
      takenSchedule(before, [
        { quantity: 25, day: day(8) },
        { quantity: 15, day: day(20) },
      ]),
    ).toEqual([
      { ...row(10, 3, { promised: day(4), received: 10 }), was: 0 },
      { ...row(20, 3, { promised: day(8) }), was: null },
      { ...row(5, 14, { promised: day(8) }), was: 1 },
      { ...row(15, 14, { promised: day(20) }), was: null },
    ]);
  });

  it("closes what nobody supplies where it stands", () => {
    expect(takenSchedule([row(8, 3, { received: 3 }), row(4, 9)], [])).toEqual([
      { ...row(8, 3, { received: 3, closedShort: 5 }), was: 0 },
      { ...row(4, 9, { closedShort: 4 }), was: 1 },
    ]);
  });

  const schedules = fc.array(
    fc
      .record({ quantity: fc.integer({ min: 1, max: 40 }), required: fc.nat(30), promised: fc.option(fc.nat(30)) })
      .chain((r) =>
        fc.record({ received: fc.nat(r.quantity), closed: fc.nat(r.quantity) }).map(({ received, closed }) =>
          row(r.quantity, r.required, {
            promised: r.promised === null ? null : day(r.promised),
            received,
            closedShort: Math.min(closed, r.quantity - received),
          }),
        ),
      ),
    { minLength: 1, maxLength: 5 },
  );
  const parts = fc
    .uniqueArray(fc.nat(40), { maxLength: 4 })
    .chain((days) =>
      fc.tuple(...days.map((d) => fc.integer({ min: 1, max: 60 }).map((quantity) => ({ quantity, day: day(d) })))),
    );
  const all = (rows: readonly { quantity: number }[]) => rows.reduce((a, r) => a + r.quantity, 0);

  it("always adds up, and loses nothing that came, was closed or was promised for it", () => {
    fc.assert(
      fc.property(schedules, parts, (before, saidParts) => {
        const open = standingParts(before);
        const after = takenSchedule(before, saidParts);
        if (open.length === 0) return;
        expect(after.reduce((a, r) => a + r.received, 0)).toBe(before.reduce((a, r) => a + r.received, 0));
        expect(after.every((r) => r.received + r.closedShort <= r.quantity)).toBe(true);
        expect(new Set(after.flatMap((r) => (r.was === null ? [] : [r.was]))).size).toBe(
          after.filter((r) => r.was !== null).length,
        );
        for (const [i, r] of before.entries())
          if (r.received > 0) expect(after.find((a) => a.was === i)).toMatchObject({ promised: r.promised });
        if (saidParts.length === 0) {
          expect(all(after)).toBe(all(before));
          expect(standingParts(after)).toEqual([]);
          return;
        }
        // What is still to come is exactly what they said, day for day.
        const by = new Map<string, number>();
        for (const p of standingParts(after)) by.set(p.day, (by.get(p.day) ?? 0) + p.quantity);
        expect([...by].sort()).toEqual(saidParts.map((p) => [p.day, p.quantity] as [string, number]).sort());
      }),
      { numRuns: 2_000 },
    );
  });

  it("goods that come before it is taken are the earliest of what they said, and nothing is ordered beside it", () => {
    const parts = [
      { quantity: 20, day: day(34) },
      { quantity: 30, day: day(7) },
    ];
    expect(partsLeft(parts, 0)).toEqual([parts[1], parts[0]]);
    expect(partsLeft(parts, 35)).toEqual([{ quantity: 15, day: day(34) }]);
    expect(partsLeft(parts, 50)).toEqual([]);
    const after = takenSchedule([row(50, 7, { received: 35 })], partsLeft(parts, 35));
    expect(all(after)).toBe(50);
  });

  it("taken once more as it stands, is as ordered", () => {
    fc.assert(
      fc.property(schedules, parts, (before, saidParts) => {
        if (standingParts(before).length === 0 || saidParts.length === 0) return;
        const after = { schedule: takenSchedule(before, saidParts), price: null, discount: 0, charges: [] };
        expect(answerDifferences(after, said([...saidParts]))).toEqual([]);
      }),
    );
  });
});
