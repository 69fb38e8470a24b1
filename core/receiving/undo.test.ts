import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ONE } from "../numbers/quantity";
import { freeToUndo, mostToUndo, type StillThere, undoRefusal } from "./undo";

const drums = { left: 4 * ONE, factor: 200 * ONE, whole: true, unit: "drum", stockUnit: "L" };
const there = (n: number, held: number[] = [], more: Partial<StillThere> = {}): StillThere => ({
  there: n * ONE,
  onHand: n * ONE,
  held: held.map((q, i) => ({ demand: i, job: i, name: `job ${2291 + i}`, quantity: q * ONE })),
  ...more,
});

describe("undoing a receipt", () => {
  it("is refused beyond what lies there: the worked example of domain-goods §12", () => {
    expect(undoRefusal(there(640), drums, 4 * ONE)).toBe("640 L are there, 800 needed: 3 drums can be.");
    expect(undoRefusal(there(640), drums, 3 * ONE)).toBeNull();
    expect(undoRefusal(there(100), drums, ONE)).toBe("100 L are there, 200 needed: nothing of it can be undone.");
  });
  it("says which job holds the goods", () => {
    expect(undoRefusal(there(840, [260]), drums, 4 * ONE)).toBe(
      "job 2291 holds 260 L: 2 drums can be, or free it first.",
    );
    expect(undoRefusal(there(840, [30]), drums, 4 * ONE)).toBeNull();
  });
  it("takes the same lot alone", () => {
    expect(mostToUndo(there(900, [], { there: 400 * ONE }), drums)).toBe(2 * ONE);
    expect(undoRefusal(there(900), drums, 5 * ONE)).toBe("Only 4 of it is not undone yet.");
  });
  it("never takes what is not there or held, and all that is free", () => {
    fc.assert(
      fc.property(
        fc.nat(2_000),
        fc.nat(2_000),
        fc.array(fc.nat(500), { maxLength: 3 }),
        fc.nat(6),
        (lot, all, held, left) => {
          const s = there(all, held, { there: lot * ONE });
          const most = mostToUndo(s, { ...drums, left: left * ONE });
          expect(most * 200).toBeLessThanOrEqual(freeToUndo(s));
          expect(undoRefusal(s, { ...drums, left: left * ONE }, most)).toBeNull();
          if (most < left * ONE) expect(undoRefusal(s, { ...drums, left: left * ONE }, most + ONE)).not.toBeNull();
        },
      ),
    );
  });
});
