import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  allKept,
  copyOf,
  isLeft,
  landed,
  launched,
  outdated,
  restored,
  turnedAway,
  typed,
  type Unkept,
} from "./kept-draft";

type Change = Record<string, number>;
const merge = (older: Change, newer: Change) => ({ ...older, ...newer });
const start = allKept<Change>(4);

describe("a change that is typed", () => {
  it("is sent, and what is typed meanwhile goes after it, from the version that came back", () => {
    const sent = launched(typed(start, { a: 1 }, merge), "k1");
    expect(sent.flying).toEqual({ key: "k1", version: 4, draft: { a: 1 } });
    const meanwhile = typed(typed(sent, { b: 2 }, merge), { b: 3 }, merge);
    const next = launched(landed(meanwhile, 5), "k2");
    expect(next.flying).toEqual({ key: "k2", version: 5, draft: { b: 3 } });
    expect(isLeft(landed(next, 6))).toBe(false);
  });

  it("is sent again under its key while its answer is missing", () => {
    const sent = launched(typed(start, { a: 1 }, merge), "k1");
    expect(launched(typed(sent, { b: 2 }, merge), "k2").flying).toEqual(sent.flying);
  });

  it("goes along with the next one where the server would not take it", () => {
    const refused = turnedAway(launched(typed(start, { a: 1 }, merge), "k1"), merge);
    expect(isLeft(refused)).toBe(false);
    expect(typed(refused, { b: 2 }, merge).pending).toEqual({ a: 1, b: 2 });
    expect(copyOf(refused)).toEqual({ flying: null, pending: { a: 1 }, version: 4 });
    // A whole draft says all by itself.
    expect(typed(turnedAway(launched(typed(start, { a: 1 }), "k"), undefined), { b: 2 }).pending).toEqual({ b: 2 });
  });

  it("is not lost where more was typed before it was turned away", () => {
    const two = typed(launched(typed(start, { a: 1 }, merge), "k1"), { b: 2 }, merge);
    expect(turnedAway(two, merge)).toEqual({ ...start, pending: { a: 1, b: 2 } });
  });

  it("stands before what was typed since where somebody else saved", () => {
    const sent = typed(launched(typed(start, { a: 1, b: 1 }, merge), "k1"), { b: 2 }, merge);
    expect(outdated(sent, merge)).toEqual({ ...start, pending: { a: 1, b: 2 } });
    expect(outdated(sent)).toEqual({ ...start, pending: { b: 2 } });
  });

  it("is nothing to send where nothing was typed", () => {
    expect(() => launched(start, "k")).toThrow("There is nothing to save.");
  });
});

describe("after a crash", () => {
  it("what was on its way is sent again as it was, and the page shows all that was typed", () => {
    const sent = typed(launched(typed(start, { a: 1, b: 1 }, merge), "k1"), { b: 2 }, merge);
    const again = restored(JSON.parse(JSON.stringify(copyOf(sent))), 9, merge)!;
    expect(again).toEqual({ unkept: sent, draft: { a: 1, b: 2 } });
    expect(launched(again.unkept, "k2").flying.key).toBe("k1");
  });

  it("nothing is restored where all was kept", () => {
    expect(restored(copyOf(landed(launched(typed(start, { a: 1 }), "k1"), 5)), 5)).toBeNull();
    expect(restored(null, 5)).toBeNull();
  });

  it("nothing typed is lost, whatever happened between two crashes", () => {
    const step = fc.oneof(
      fc.record({ what: fc.constant("type" as const), name: fc.constantFrom("a", "b", "c"), value: fc.nat(9) }),
      fc.constantFrom(...(["send", "take", "refuse", "stale", "crash"] as const)).map((what) => ({ what })),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        let k: Unkept<Change> = start;
        let server: Change = {};
        let wanted: Change = {};
        for (const s of steps) {
          if (s.what === "type") {
            k = typed(k, { [s.name]: s.value }, merge);
            wanted = { ...wanted, [s.name]: s.value };
          } else if (s.what === "send") k = isLeft(k) ? launched(k, "k") : k;
          else if (s.what === "crash") k = restored(copyOf(k), k.version, merge)?.unkept ?? k;
          else if (k.flying === null) continue;
          else if (s.what === "take") {
            server = { ...server, ...k.flying.draft };
            k = landed(k, k.version + 1);
          } else k = s.what === "refuse" ? turnedAway(k, merge) : outdated(k, merge);
        }
        expect({ ...server, ...k.refused, ...k.flying?.draft, ...k.pending }).toEqual(wanted);
      }),
    );
  });
});
