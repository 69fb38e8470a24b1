import { describe, expect, it } from "vitest";
import { ONE } from "../../../core/numbers/quantity";
import type { KnownItem } from "../../../server/queries/needs/round";
import { AT_THE_SHELF, type Hand, noted, scanned, takeUp, unitsToCount, type Walking } from "./hand";

const item = (id: number, code: string, name: string, more: Partial<KnownItem> = {}): KnownItem => ({
  id,
  code,
  name,
  unit: "each",
  codes: [],
  units: [],
  stock: null,
  ...more,
});
const shackle = item(1, "SHK-16", "Shackle 16", {
  codes: ["4006381333931"],
  units: [{ name: "box", factor: 50 * ONE }],
});
const known = [shackle, item(2, "ROP-48", "Rope 48"), item(3, "ROP-56", "Rope 56")];
const inHand = (walking: Walking, typed: Partial<Hand>): Walking => ({
  ...walking,
  hand: { ...walking.hand!, ...typed },
});

describe("a code", () => {
  it("takes the item in hand, by our code or another, in its stock unit", () => {
    for (const code of ["shk-16 ", "4006381333931"])
      expect(scanned(AT_THE_SHELF, known, code).hand).toMatchObject({
        item: shackle,
        unit: { name: "each", factor: ONE },
      });
    expect(unitsToCount(shackle).map((u) => u.name)).toEqual(["each", "box"]);
  });

  it("that several items have asks which one; one that nobody knows is inHand, too; none is none", () => {
    expect(scanned(AT_THE_SHELF, known, "rope")).toMatchObject({ hand: null, several: [known[1], known[2]] });
    expect(scanned(AT_THE_SHELF, known, "X99").hand).toMatchObject({ code: "X99", item: null });
    const before = takeUp("SHK-16", shackle);
    expect(scanned(before, known, "  ")).toBe(before);
  });
});

describe("what is in hand", () => {
  it("is noted in the unit that was chosen", () => {
    const { walking, line } = noted(
      inHand(takeUp("4006381333931", shackle), {
        quantity: " 2 ",
        unit: { name: "box", factor: 50 * ONE },
        note: "low",
      }),
      known,
      7,
    );
    expect(line).toEqual({
      store: 7,
      code: "SHK-16",
      name: "Shackle 16",
      quantity: "2",
      unit: "box",
      factor: 50 * ONE,
      note: "low",
    });
    expect(walking).toEqual({ hand: null, several: [], heard: "Shackle 16: 2 box noted" });
  });

  it("is noted as unknown where nobody knows it, without a unit", () => {
    const { line } = noted(inHand(takeUp("X99", null), { quantity: "3", note: "a red hook" }), known, 7);
    expect(line).toEqual({ store: 7, code: "X99", name: "unknown: X99", quantity: "3", unit: "", note: "a red hook" });
  });

  it("stays where the quantity is none, and says why", () => {
    const { walking, line, again } = noted(inHand(takeUp("SHK-16", shackle), { quantity: "two" }), known, 7);
    expect([line, again]).toEqual([undefined, true]);
    expect(walking.hand?.quantity).toBe("two");
    expect(walking.heard).toMatch(/number/i);
  });

  it("gives way to the next item where its code was scanned into the quantity", () => {
    const { walking, line } = noted(inHand(takeUp("ROP-48", known[1]!), { quantity: "4006381333931" }), known, 7);
    expect(line).toBeUndefined();
    expect(walking).toMatchObject({ hand: { item: shackle }, heard: "Rope 48 was left without a quantity." });
  });

  it("is nothing at the shelf", () => {
    expect(noted(AT_THE_SHELF, known, 7)).toEqual({ walking: AT_THE_SHELF });
  });
});
