import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import type { BasisPoints } from "../numbers/money";
import { faultsOf } from "./faults";
import { applies, bookOn, type Facts, type Ladder, type Rulebook, rungsFor, type Signer, WIDE } from "./rulebook";
import { type People, wayFor } from "./way";

const [INES, MAUD, HALDEN, ROSS] = [1, 2, 3, 4];
const NAMES: Record<number, string> = { [INES]: "Ines", [MAUD]: "Maud", [HALDEN]: "Halden", [ROSS]: "Ross" };
const TEAMS: Record<number, { name: string; members: number[] }> = {
  1: { name: "Yard manager", members: [MAUD] },
  2: { name: "Finance director", members: [HALDEN] },
  3: { name: "Board", members: [MAUD, HALDEN, ROSS] },
  4: { name: "Nobody’s team", members: [] },
};
const people: People = {
  membersOf: (s, writer) =>
    (s.kind === "team"
      ? TEAMS[s.team]!.members
      : s.kind === "person"
        ? [s.person]
        : s.kind === "manager"
          ? [writer === INES ? MAUD : HALDEN]
          : [MAUD, HALDEN]
    ).map((id) => ({ id, name: NAMES[id]! })),
  nameOf: (s) => (s.kind === "team" ? TEAMS[s.team]!.name : s.kind === "person" ? NAMES[s.person]! : s.kind),
};
const KNOWN = {
  departments: new Set([1, 2, 3]),
  categories: new Set(["steel", "oil"]),
  suppliers: new Set([1, 2, 3]),
  stores: new Set([1, 2, 3]),
};
const team = (n: number, all = false): Signer => ({ kind: "team", team: n, all });
const rung = (upTo: number | null, who: Signer | null) => ({ upTo, who, hours: 8, climbsTo: null });
const ladder = (more: Partial<Ladder> = {}): Ladder => ({
  id: 1,
  name: "Orders",
  papers: ["order"],
  ...WIDE,
  rungs: [rung(80_000, null), rung(1_250_000, team(1)), rung(null, team(2))],
  ...more,
});
const book = (...ladders: Ladder[]): Rulebook => ({
  version: 1,
  starts: toDay("2026-01-01"),
  allowance: { percent: 200 as BasisPoints, amount: 10_000 },
  ladders,
});
const facts = (more: Partial<Facts> = {}): Facts => ({
  paper: "order",
  amount: 500_000,
  department: null,
  categories: [],
  supplier: null,
  store: null,
  kind: null,
  overBudget: false,
  ...more,
});
const way = (l: Ladder, f: Partial<Facts>, writer = INES) => wayFor(book(l), facts(f), writer, people, "EUR");
const seats = (l: Ladder, f: Partial<Facts>, writer = INES) => {
  const found = way(l, f, writer);
  return found.ok ? found.seats.map((s) => s.name) : found.says;
};

describe("who has to sign", () => {
  it("is every rung up to the first whose limit covers the amount (the worked example)", () => {
    expect(seats(ladder(), { amount: 80_000 })).toEqual([]);
    expect(seats(ladder(), { amount: 80_001 })).toEqual(["Yard manager"]);
    expect(seats(ladder(), { amount: 1_250_000 })).toEqual(["Yard manager"]);
    expect(seats(ladder(), { amount: 1_250_001 })).toEqual(["Yard manager", "Finance director"]);
  });

  it("is that rung alone, where the ladder says so", () => {
    expect(seats(ladder({ needs: "one rung" }), { amount: 1_250_001 })).toEqual(["Finance director"]);
    expect(seats(ladder({ needs: "one rung" }), { amount: 80_000 })).toEqual([]);
  });

  it("says why, as a sum", () => {
    const found = way(ladder(), { amount: 1_250_001 });
    expect(found.ok && found.sum.steps.map((s) => s.label)).toEqual([
      "net, before tax",
      "nobody, up to",
      "Yard manager, within 8 hours, up to",
      "Finance director, within 8 hours",
    ]);
  });

  it("is never the writer, unless the ladder lets them sign as much of their own", () => {
    const handled = wayFor(book(ladder()), facts(), INES, people, "EUR", [INES, MAUD]);
    expect(handled.ok ? null : handled.says).toBe(
      "Only who wrote, changed or asked for it could sign as the yard manager, so it cannot be submitted.",
    );
    const three = ladder({ rungs: [rung(null, team(3, true))] });
    const rest = wayFor(book(three), facts(), INES, people, "EUR", [INES, MAUD]);
    expect(rest.ok && rest.seats[0]!.members.map((m) => m.id)).toEqual([HALDEN, ROSS]);
    const own = wayFor(book(ladder({ own: 500_000 })), facts(), INES, people, "EUR", [INES, MAUD]);
    expect(own.ok && own.seats[0]!.members.map((m) => m.id)).toEqual([MAUD]);
    expect(seats(ladder(), {}, MAUD)).toMatch(/Nobody but its writer could sign as the yard manager/);
    expect(seats(ladder({ own: 500_000 }), {}, MAUD)).toEqual(["Yard manager"]);
    expect(seats(ladder({ own: 499_999 }), {}, MAUD)).toMatch(/Nobody but its writer/);
    const board = way(ladder({ rungs: [rung(null, team(3, true))] }), {}, ROSS);
    expect(board.ok && board.seats[0]).toMatchObject({ all: true, members: [{ id: MAUD }, { id: HALDEN }] });
  });

  it("cannot be said where nobody covers the amount, no ladder is for it, or a team has nobody", () => {
    expect(seats(ladder({ rungs: [rung(80_000, null)] }), {})).toMatch(/may sign this amount/);
    expect(seats(ladder(), { paper: "blanket" })).toMatch(/No spend ladder is for this paper/);
    expect(seats(ladder({ rungs: [rung(null, team(4))] }), {})).toMatch(
      /There is nobody who could sign as the nobody’s team/,
    );
  });

  it("is a rung more, or no way at all, where a budget is passed", () => {
    const over = { overBudget: true, amount: 90_000 };
    expect(seats(ladder(), over)).toEqual(["Yard manager"]);
    expect(seats(ladder({ overBudget: { who: team(2), hours: 4, climbsTo: null } }), over)).toEqual([
      "Yard manager",
      "Finance director",
    ]);
    expect(seats(ladder({ overBudget: "block" }), over)).toMatch(/It is over its budget/);
  });

  it("is by the first ladder that the paper comes under", () => {
    const steel = ladder({ id: 2, name: "Steel", categories: ["Steel"], rungs: [rung(null, team(2))] });
    const yard = ladder({ id: 3, name: "Yard", stores: [2], rungs: [rung(null, team(1))] });
    const of = (f: Partial<Facts>) => {
      const found = wayFor(book(steel, yard, ladder()), facts(f), INES, people, "EUR");
      return found.ok ? found.ladder.name : null;
    };
    expect(of({ categories: ["Paint", "Steel"], store: 2 })).toBe("Steel");
    expect(of({ categories: ["Paint"], store: 2 })).toBe("Yard");
    expect(of({ categories: ["Paint"], store: 1 })).toBe("Orders");
    expect(of({})).toBe("Orders");
  });

  it("never is fewer for a higher amount, where every rung signs", () => {
    const limits = fc.uniqueArray(fc.nat(2_000_000), { maxLength: 6 }).map((l) => l.toSorted((a, b) => a - b));
    fc.assert(
      fc.property(limits, fc.nat(2_500_000), fc.nat(2_500_000), (up, a, b) => {
        const l = ladder({ rungs: [...up.map((u, i) => rung(u, i % 2 ? team(1) : null)), rung(null, team(2))] });
        const [low, high] = a < b ? [a, b] : [b, a];
        const count = (n: number) => rungsFor(l, n)!.filter((r) => r.rung.who).length;
        expect(count(high)).toBeGreaterThanOrEqual(count(low));
      }),
    );
  });

  it("lets nobody sign their own beyond their limit, whatever the ladder", () => {
    const signer = fc.constantFrom<Signer>(
      team(1),
      team(2),
      team(3),
      team(3, true),
      { kind: "manager" },
      { kind: "person", person: MAUD },
    );
    fc.assert(
      fc.property(
        fc.array(signer, { minLength: 1, maxLength: 4 }),
        fc.nat(1_000_000),
        fc.nat(1_000_000),
        fc.constantFrom(INES, MAUD, HALDEN, ROSS),
        (who, amount, own, writer) => {
          const l = ladder({ own, rungs: [...who.map((s, i) => rung((i + 1) * 200_000, s)), rung(null, team(3))] });
          const found = way(l, { amount }, writer);
          if (!found.ok || amount <= own) return;
          for (const s of found.seats) {
            expect(s.members.length).toBeGreaterThan(0);
            expect(s.members.map((m) => m.id)).not.toContain(writer);
          }
        },
      ),
    );
  });
});

describe("a ladder for call-offs", () => {
  it("takes those alone, and a paper whose kind nobody says goes by the next", () => {
    const calls = ladder({ id: 2, name: "Call-offs", kinds: ["call-off"], rungs: [rung(null, null)] });
    const by = (kind: Facts["kind"]) => {
      const way = wayFor(book(calls, ladder()), facts({ kind }), INES, people, "EUR");
      return way.ok && way.ladder.name;
    };
    expect([by("call-off"), by("one-off"), by(null)]).toEqual(["Call-offs", "Orders", "Orders"]);
  });
});

describe("a rulebook", () => {
  it("holds from its day on, the later version of a day before the earlier", () => {
    const of = (version: number, starts: string) => ({ version, starts: toDay(starts) });
    const books = [of(1, "2026-01-01"), of(2, "2026-12-01"), of(3, "2026-12-01")];
    expect(bookOn(books, toDay("2025-12-31"))).toBeNull();
    expect(bookOn(books, toDay("2026-11-30"))?.version).toBe(1);
    expect(bookOn(books, toDay("2026-12-01"))?.version).toBe(3);
  });

  it("says which amounts nobody covers, what is never reached, and where nobody stands", () => {
    const says = (...ladders: Ladder[]) => faultsOf(book(...ladders), people, KNOWN, "EUR").map((f) => f.says);
    expect(says(ladder())).toEqual([]);
    expect(says(ladder({ rungs: [rung(80_000, null)] }))).toEqual([
      "Nobody signs above €800.00: such a paper cannot be submitted.",
    ]);
    expect(says(ladder({ rungs: [rung(null, team(1)), rung(90_000, team(2))] }))[0]).toMatch(
      /the rung below takes every amount/,
    );
    expect(says(ladder({ rungs: [rung(90_000, null), rung(80_000, team(1)), rung(null, team(2))] }))).toEqual([
      "It is never reached: a rung below goes as high.",
    ]);
    expect(says(ladder(), ladder({ id: 2, stores: [1] }))).toEqual([
      "It is never used: “Orders” stands before it and takes the same papers.",
    ]);
    expect(says(ladder({ stores: [1] }), ladder({ id: 2 }))).toEqual([]);
    expect(says(ladder({ rungs: [rung(null, team(4))] }))).toEqual([
      "There is nobody who could sign as the nobody’s team.",
    ]);
    expect(says(ladder({ categories: ["oil", "oill"], departments: [9], suppliers: [9], stores: [9] }))).toEqual([
      "No item is filed under “oill”.",
      "It names a department that is not here.",
      "It names a supplier that is not here.",
      "It names a store that is not here.",
    ]);
    expect(says(ladder({ overBudget: { who: team(4), hours: 8, climbsTo: null } }))).toEqual([
      "There is nobody who could sign as the nobody’s team.",
    ]);
    expect(says(ladder({ papers: [], rungs: [] }))).toEqual([
      "It is for no kind of paper.",
      "It has no rung, so nothing can be submitted under it.",
    ]);
  });

  it("never hides a ladder that some paper would come to", () => {
    const list = fc.uniqueArray(fc.nat(2), { maxLength: 2 });
    const some = fc.record({ departments: list, stores: list, suppliers: list });
    fc.assert(
      fc.property(some, some, list, (a, b, at) => {
        const [first, later] = [ladder(a), ladder({ ...b, id: 2 })];
        const hidden = faultsOf(book(first, later), people, KNOWN, "EUR").some(
          (f) => f.ladder === 2 && /never used/.test(f.says),
        );
        const f = facts({ department: at[0] ?? null, store: at[1] ?? null, supplier: at[0] ?? null });
        if (hidden && applies(later, f)) expect(applies(first, f)).toBe(true);
      }),
    );
  });
});
