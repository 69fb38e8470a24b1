import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, toDay } from "../../../core/calendar/day";
import { stock } from "../../../core/numbers/quantity";
import { testHouse } from "../../testing";
import type { Need } from "./need";
import { FACET_NAMES, facetsOf, GROUPINGS, layOut, needQuery, needQueryOfProgram, planOf, SORTS } from "./query";

const TODAY = toDay("2026-11-24");
const ask = (address: string) => needQuery(new URLSearchParams(address));

const need: fc.Arbitrary<Need> = fc
  .record({
    id: fc.integer({ min: 1, max: 1e6 }),
    source: fc.constantFrom("reorder" as const, "job" as const, "file" as const),
    name: fc.constantFrom("Oil", "anode", "Rope", "bolt"),
    store: fc.integer({ min: 1, max: 3 }),
    supplier: fc.option(fc.integer({ min: 1, max: 4 })),
    job: fc.option(fc.constantFrom("job 1, Knot", "job 2, Thrift")),
    by: fc.option(fc.integer({ min: -9, max: 9 })),
    misses: fc.constantFrom(0, 0, 0, 3, 12),
    hand: fc.option(fc.integer({ min: 0, max: 50 })),
    wanted: fc.integer({ min: 1, max: 99 }),
  })
  .map((r) => ({
    key: `n:${r.id}`,
    source: r.source,
    parts: [],
    item: r.id,
    code: `C-${r.id % 50}`,
    name: r.name,
    kind: "stocked",
    category: r.name === "Oil" ? "" : "Deck",
    store: r.store,
    storeName: `Store ${r.store}`,
    stockUnit: "each",
    policy: "",
    stock:
      r.hand === null
        ? null
        : {
            onHand: stock(r.hand),
            committed: stock(0),
            onOrder: stock(0),
            available: stock(r.hand),
            reorderPoint: stock(9),
          },
    usage: { last30: 0, before: 0, after: 0 },
    cover: null,
    neededOn: TODAY,
    orderBy: r.by === null ? null : addDays(TODAY, r.by),
    arrives: TODAY,
    lateBy: Math.max(0, r.misses - 1),
    dueNow: r.by !== null && r.by <= 0,
    missesBy: r.misses,
    runsOut: null,
    forJob: r.job,
    wanted: stock(r.wanted),
    buy: r.wanted as Need["buy"],
    unit: "each",
    factor: 10_000,
    sourcing: r.supplier,
    supplier:
      r.supplier === null
        ? null
        : { id: r.supplier, name: `Supplier ${r.supplier}`, currency: "EUR", buyer: r.supplier > 2 ? "Ines" : null },
    price: null,
    lastPrice: null,
    amount: null,
    homeAmount: null,
    requisition: null,
    noted: null,
    aboveMaximum: false,
  }));
const pool = fc.uniqueArray(need, { selector: (n) => n.key, maxLength: 60 });
const nobody = new Set<string>();

describe("an address of the sheet", () => {
  it("is read for what it says, and nonsense is left out", () => {
    expect(ask("")).toMatchObject({ source: [], group: "supplier", sort: null, run: "usual", asOf: null, find: "" });
    expect(ask("source=job,nonsense&group=job&sort=-hand&run=lots&asOf=2026-12-10&late=due&ticked=yes")).toMatchObject({
      source: ["job"],
      group: "job",
      sort: { column: "hand", down: true },
      run: "lots",
      asOf: "2026-12-10",
      late: "due",
      ticked: "yes",
    });
    expect(ask("sort=constructor&group=x&run=y&asOf=2026-02-30&late=z&ticked=no")).toMatchObject({
      sort: null,
      group: "supplier",
      run: "usual",
      asOf: null,
      late: undefined,
      ticked: undefined,
    });
  });
  it("plans for today where its day has passed", () => {
    expect(planOf(ask("asOf=2026-11-01"), TODAY, 9).asOf).toBe(TODAY);
    expect(planOf(ask("asOf=2026-12-01"), TODAY, 9).asOf).toBe("2026-12-01");
  });
});

describe("the sheet that is laid out", () => {
  it("loses no need, whatever groups and sorts it, and its groups tile it", () => {
    const address = fc.tuple(fc.constantFrom(...GROUPINGS), fc.constantFrom("", ...Object.keys(SORTS)), fc.boolean());
    fc.assert(
      fc.property(pool, address, (needs, [group, sort, down]) => {
        const { rows, groups } = layOut(needs, ask(`group=${group}&sort=${down ? "-" : ""}${sort}`), nobody);
        expect(new Set(rows.map((n) => n.key))).toEqual(new Set(needs.map((n) => n.key)));
        if (group === "none") expect(groups).toEqual([]);
        else {
          expect(groups.reduce((a, g) => a + g.count, 0)).toBe(rows.length);
          groups.forEach((g, i) => {
            expect(g.start).toBe(i === 0 ? 0 : groups[i - 1]!.start + groups[i - 1]!.count);
          });
        }
      }),
    );
  });
  it("sorts by its column within groups, and what has nothing stands last", () => {
    fc.assert(
      fc.property(pool, fc.boolean(), (needs, down) => {
        const { rows } = layOut(needs, ask(`group=none&sort=${down ? "-" : ""}hand`), nobody);
        const hands = rows.map((n) => n.stock?.onHand ?? null);
        const known = hands.filter((h) => h !== null);
        expect(known).toEqual([...known].sort((a, b) => (down ? b - a : a - b)));
        if (!down) expect(hands.slice(0, known.length)).toEqual(known);
      }),
    );
  });
  it("stands by urgency where nothing sorts it: who goes without first", () => {
    fc.assert(
      fc.property(pool, (needs) => {
        const { rows } = layOut(needs, ask("group=none"), nobody);
        const misses = rows.map((n) => n.missesBy).filter((m) => m > 0);
        expect(rows.slice(0, misses.length).map((n) => n.missesBy)).toEqual([...misses].sort((a, b) => b - a));
      }),
    );
  });
  it("narrows to what each facet promises", () => {
    fc.assert(
      fc.property(pool, (needs) => {
        const facets = facetsOf(needs);
        for (const name of FACET_NAMES) {
          expect(facets[name].reduce((a, f) => a + f.count, 0)).toBe(needs.length);
          for (const f of facets[name])
            expect(layOut(needs, ask(`${name}=${encodeURIComponent(f.value)}`), nobody).rows.length).toBe(f.count);
        }
        for (const late of ["misses", "below", "due"] as const)
          expect(layOut(needs, ask(`late=${late}`), nobody).rows.length).toBe(facets.late[late]);
      }),
    );
  });
  it("shows only what is ticked where that is asked for", () => {
    fc.assert(
      fc.property(pool, (needs) => {
        const some = new Set(needs.filter((_, i) => i % 3 === 0).map((n) => n.key));
        expect(new Set(layOut(needs, ask("ticked=yes"), some).rows.map((n) => n.key))).toEqual(some);
      }),
    );
  });
});

describe("what a program asks for", () => {
  it("is refused where it is not understood, and names stores and suppliers by their codes", () => {
    const h = testHouse();
    const asked = (address: string) => needQueryOfProgram(h.db, new URLSearchParams(address), TODAY);
    expect(
      asked("asOf=2026-11-31&run=all&late=very&group=x&sort=-nothing&source=reorder,moon&store=XX&supplier=9999"),
    ).toEqual({
      ok: false,
      problems: [
        { field: "asOf", says: "There is no such day. Write it like 2026-11-24." },
        expect.objectContaining({ field: "run" }),
        expect.objectContaining({ field: "late" }),
        expect.objectContaining({ field: "group" }),
        expect.objectContaining({ field: "sort" }),
        expect.objectContaining({ field: "source" }),
        { field: "store", says: "There is no store “XX”." },
        { field: "supplier", says: "There is no supplier “9999”." },
      ],
    });
    expect(asked("asOf=2026-11-23")).toMatchObject({ ok: false, problems: [{ says: "This day has passed." }] });
    expect(asked("store=HS,1&supplier=BAW,none&sort=-late&asOf=2026-11-24")).toMatchObject({
      ok: true,
      value: {
        store: [String(h.id("store", "HS")), "1"],
        supplier: [String(h.id("supplier", "BAW")), "none"],
        sort: { column: "late", down: true },
      },
    });
    h.close();
  });

  it("of a page that cannot be understood is left out, however long it is", () => {
    expect(ask(`asOf=x&run=moon&store=${"1,".repeat(5000)}`)).toMatchObject({ asOf: null, run: "usual" });
  });
});
