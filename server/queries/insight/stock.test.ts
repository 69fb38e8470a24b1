import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { addDays, type Day, daysBetween, toDay } from "../../../core/calendar/day";
import type { StockAsked } from "../../../core/insight/stock";
import type { MovementKind } from "../../../core/stock/movement";
import { move } from "../../acts/stock/stock";
import { sql } from "../../db/open";
import { type TestHouse, testHouse } from "../../testing";
import { daysOf, readStock, readStockBeside, STILL_DAYS, stockAsked, stockColumns } from "./stock";

let h: TestHouse;
const TODAY = toDay("2026-11-24");

interface Moved {
  item: string;
  store: string;
  day: Day;
  kind: MovementKind;
  quantity: number;
  value: number;
  /** Written down so many days after. */
  late: number;
}
let moved: Moved[] = [];

/** Two years of goods that come and go in two stores, some of it written down days later; the same each time. */
beforeAll(() => {
  h = testHouse();
  sql(h.db, "UPDATE item SET category = 'Oils' WHERE code = 'OIL'").run();
  // What lies there already: every movement of the house's own, on its day.
  const there = sql<Omit<Moved, "late">>(
    h.db,
    "SELECT i.code AS item, s.code AS store, m.day, m.kind, m.quantity, m.value FROM movement m JOIN item i ON i.id = m.item JOIN store s ON s.id = m.store",
  )
    .all()
    .map((m) => ({ ...m, late: 0 }));
  let seed = 7;
  const roll = (n: number) => {
    seed = (seed * 48_271) % 2_147_483_647;
    return seed % n;
  };
  const stores = sql<{ code: string }>(h.db, "SELECT code FROM store ORDER BY id LIMIT 2")
    .all()
    .map((s) => s.code);
  const items = sql<{ code: string }>(h.db, "SELECT code FROM item ORDER BY id LIMIT 3")
    .all()
    .map((s) => s.code);
  moved = Array.from({ length: 240 }, (_, i) => {
    const kind = i < 6 ? "receipt" : (["receipt", "issue", "issue", "count"] as const)[roll(4)]!;
    const out = kind === "issue";
    return {
      item: i < 6 ? items[i % 3]! : items[roll(2)]!,
      store: i < 6 ? stores[i % 2]! : stores[roll(2)]!,
      day: addDays(TODAY, -(i < 6 ? 700 : roll(690))),
      kind,
      quantity: (i < 6 ? 9_000 : 1 + roll(40)) * 10_000 * (out ? -1 : 1),
      value: (i < 6 ? 90_000 : 50 + roll(900)) * (out ? -1 : 1),
      late: roll(5) === 0 ? 1 + roll(20) : 0,
    };
  });
  for (const m of moved)
    move(
      h.db,
      { day: m.day, now: `${addDays(m.day, m.late)}T09:00:00.000Z`, person: null },
      { item: h.id("item", m.item), store: h.id("store", m.store), quantity: Math.abs(m.quantity), kind: m.kind },
      m.quantity,
      m.value,
    );
  moved.push(...there);
});
afterAll(() => h.close());

/** The same, counted day by day. */
function slowly(a: StockAsked, key: (m: Moved) => string) {
  const known = moved.filter((m) => m.day <= a.on && (!a.knownThen || addDays(m.day, m.late) <= a.on));
  const by: Record<string, { value: number; dayValues: number; used: number; still: number }> = {};
  const of = (k: string) => (by[k] ??= { value: 0, dayValues: 0, used: 0, still: 0 });
  for (const m of known) {
    of(key(m)).value += m.value;
    if (m.kind === "issue" && m.day >= a.from) of(key(m)).used -= m.value;
  }
  for (let day = a.from; day <= a.on; day = addDays(day, 1))
    for (const m of known) if (m.day <= day) of(key(m)).dayValues += m.value;
  for (const place of new Set(known.map((m) => `${m.item}/${m.store}`))) {
    const there = known.filter((m) => `${m.item}/${m.store}` === place);
    const lies = there.reduce((n, m) => n + m.quantity, 0) > 0;
    const old = there.some((m) => daysBetween(m.day, a.on) >= STILL_DAYS);
    const used = there.some((m) => m.kind === "issue" && daysBetween(m.day, a.on) < STILL_DAYS);
    if (lies && old && !used) of(key(there[0]!)).still += there.reduce((n, m) => n + m.value, 0);
  }
  return by;
}

describe("what lies there", () => {
  it.each([
    ["store", "2026-11-24", false],
    ["store", "2026-03-01", true],
    ["item", "2025-12-31", false],
    ["item", "2026-06-15", true],
  ] as const)("by %s at the end of %s is what a slow count says", (by, on, knownThen) => {
    const asked: StockAsked = { ...stockAsked(new URLSearchParams({ by, on }), TODAY), knownThen };
    const { rows, total } = readStock(h.db, asked);
    const counted = slowly(asked, (m) => String(h.id(by, m[by])));
    expect(
      Object.fromEntries(
        rows.map((r) => [r.key, { value: r.value, dayValues: r.dayValues, used: r.used, still: r.still }]),
      ),
    ).toEqual(counted);
    expect(total.value).toBe(rows.reduce((n, r) => n + r.value, 0));
    expect(daysOf(asked)).toBe(365);
  });

  it("tells what was known then from what is known now", () => {
    const late = moved.find((m) => m.late > 0)!;
    const on = { ...stockAsked(new URLSearchParams({ on: late.day }), TODAY), on: late.day };
    const now = readStock(h.db, on).total.value;
    const then = readStock(h.db, { ...on, knownThen: true }).total.value;
    expect(now - then).toBe(
      moved.filter((m) => m.day <= late.day && addDays(m.day, m.late) > late.day).reduce((n, m) => n + m.value, 0),
    );
    expect(now).not.toBe(then);
  });

  it("says what expires soon as its part of the place, and what is consigned apart", () => {
    const item = h.id("item", "OIL");
    const store = h.id("store", moved[0]!.store);
    const lot = Number(
      sql(h.db, "INSERT INTO lot (item, code, expires) VALUES (?, 'L1', ?)").run(item, addDays(TODAY, 30))
        .lastInsertRowid,
    );
    const supplier = h.id("supplier", "TTL");
    const by = { day: TODAY, now: `${TODAY}T09:00:00.000Z`, person: null };
    const before = readStock(h.db, stockAsked(new URLSearchParams({ by: "item" }), TODAY)).rows.find(
      (r) => r.key === String(item),
    );
    expect(before?.soon ?? 0).toBe(0);
    move(h.db, by, { item, store, quantity: 30_000, kind: "receipt", lot }, 30_000, 300);
    move(h.db, by, { item, store, quantity: 10_000, kind: "consigned", owner: supplier }, 10_000, 0);
    const asked = stockAsked(new URLSearchParams({ by: "item", "is-category": "Oils" }), TODAY);
    const { rows } = readStock(h.db, asked);
    const place = sql<{ quantity: number; value: number }>(
      h.db,
      "SELECT on_hand AS quantity, value FROM item_store WHERE item = ? AND store = ?",
    ).get(item, store)!;
    expect(rows.map((r) => [r.key, r.theirs, r.soon])).toEqual([
      [String(item), 1, Math.round((place.value * 30_000) / place.quantity)],
    ]);
    expect(stockColumns(h.db, "item").map((c) => c.name)).toContain("expiring_eur");
  });

  it("is told month by month, those without a movement too, and ends at what lies there", async () => {
    const asked = stockAsked(new URLSearchParams({ on: "2026-05-31" }), TODAY);
    const [row] = readStock(h.db, asked).rows;
    const { months, points } = await readStockBeside(h.db, asked, row!.key, TODAY);
    expect(months.map((m) => m.month)).toHaveLength(12);
    expect(months[0]!.month).toBe("2025-06");
    expect(months.at(-1)).toMatchObject({ month: "2026-05", value: row!.value });
    expect(months.reduce((n, m) => n + m.used, 0)).toBe(row!.used);
    expect(points).toBeNull();
    const today = stockAsked(new URLSearchParams(), TODAY);
    expect((await readStockBeside(h.db, today, row!.key, TODAY)).points).not.toBeNull();
  });
});
