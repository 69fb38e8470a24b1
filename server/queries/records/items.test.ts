import { afterEach, beforeEach, expect, it } from "vitest";
import { sql } from "../../db/open";
import { csvOf, type TestHouse, TODAY, testHouse } from "../../testing";
import { ITEMS } from "./items";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
  for (const [code, name, category] of [
    ["A1", "Zinc plate", "anodes"],
    ["A2", "Anode, 100%", "anodes"],
    ["R1", "Rope_48", "ropes"],
  ])
    sql(h.db, "INSERT INTO item (code, name, kind, unit, category) VALUES (?, ?, 'stocked', 'C62', ?)").run(
      code,
      name,
      category,
    );
});
afterEach(() => h.close());

const sheet = (find: string, window: { from?: number; most?: number; around?: number } = {}) =>
  ITEMS.find(h.db, ITEMS.query(new URLSearchParams({ find })), TODAY, { from: 0, most: 80, ...window });
const codes = (s: ReturnType<typeof sheet>) => s.rows.map((r) => r.code);

it("lists items by category, whole or in windows, with where each category begins", () => {
  const all = sheet("");
  expect(codes(all)).toEqual(["ANO", "OIL", "ROP", "A2", "A1", "R1"]);
  expect(all).toMatchObject({
    count: 6,
    all: 6,
    groups: [
      { start: 0, heading: "" },
      { start: 3, heading: "anodes" },
      { start: 5, heading: "ropes" },
    ],
  });
  expect(codes(sheet("", { from: 2, most: 2 }))).toEqual(["ROP", "A2"]);
  const [{ id }] = all.rows.filter((r) => r.code === "A1") as unknown as [{ id: number }];
  expect(sheet("", { most: 2, around: id })).toMatchObject({
    place: 4,
    from: 3,
    rows: [{ code: "A2" }, { code: "A1" }],
  });
  expect(all.rows[1]).toMatchObject({ onHand: 3_400_000, stores: 1, supplier: "Tern & Tallow" });
});

it("finds by code, name or supplier, and takes no letter for a wildcard", () => {
  expect(codes(sheet("tern"))).toEqual(["OIL", "ROP"]);
  expect(codes(sheet("0%"))).toEqual(["A2"]);
  expect(codes(sheet("e_4"))).toEqual(["R1"]);
  expect(sheet("anode", { most: 1, from: 1 })).toMatchObject({
    count: 2,
    all: 6,
    rows: [{ code: "A2" }],
    groups: [{ start: 0 }, { start: 1, heading: "anodes" }],
  });
  expect(sheet("nothing like it", { around: 1 })).toMatchObject({ count: 0, rows: [], groups: [], place: null });
});

it("leaves as a file with exact figures, as it is shown", () => {
  const [part] = ITEMS.parts(h.db, new URLSearchParams({ find: "anode" }), TODAY);
  expect(csvOf(ITEMS.file(h.db), part!)).toBe(
    "\uFEFFitem,name,kind,category,on_hand,unit,stores,preferred_supplier\n" +
      "ANO,Hull anode,stocked,,78,each,2,Brannock\n" +
      'A2,"Anode, 100%",stocked,anodes,,each,0,\n',
  );
});
