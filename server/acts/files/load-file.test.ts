import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { FILE_KINDS } from "../../../exchange/csv/kinds";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { saveFile } from "../../queries/records/save-file";
import { refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import type { Done } from "../desk";
import { loadFile } from "./load-file";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const load = (kind: (typeof FILE_KINDS)[number], text: string | Uint8Array, mark: "." | "," = ".", who = "osk") =>
  loadFile(h.desk(who), kind, typeof text === "string" ? Buffer.from(text) : text, mark);
const faults = (answer: ReturnType<typeof load>) => {
  if (answer.ok || !("faults" in answer)) throw new Error(`not faulty: ${JSON.stringify(answer)}`);
  return answer.faults.map((f) => `${f.line} ${f.column}: ${f.says}`);
};
const items = () => sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM item").get()!.n;

describe("loading files", () => {
  it("reads commas, semicolons and tabs, with and without a byte order mark", () => {
    expect(load("items", "\uFEFFcode;name;unit;reference_cost\r\nB1;Bøye;C62;1.234,50\r\n", ",")).toMatchObject({
      ok: true,
      value: { rows: 1, added: 1 },
    });
    expect(load("items", "code\tname\tunit\nB2\tBoye\teach\n")).toMatchObject({ ok: true });
    expect(load("items", 'name,code,unit\n"Line one\nline two, still",B3,each\nNext,B4,each\n')).toMatchObject({
      ok: true,
      value: { rows: 2 },
    });
    expect(sql<{ c: number }>(h.db, "SELECT reference_cost AS c FROM item WHERE code = 'B1'").get()!.c).toBe(
      1_234_500_000,
    );
  });

  it("lists every faulty row with its line, its column and what would be right, and loads nothing", () => {
    const before = items();
    const text =
      'code,name,unit,tax,gtin,reference_cost\nOK1,"Two\nlines",fathom,20,,1\nBAD 2,Name,each,120,,1\n,Name,each,20,123,-1\n';
    expect(faults(load("items", text))).toEqual([
      expect.stringMatching(/^2 unit: No such unit/),
      "4 code: A code has at most 40 letters, digits and . _ / + - without spaces.",
      "4 tax: Between 0 and 100.",
      "5 code: Must be filled in: the item’s code.",
      "5 gtin: A GTIN has 8, 12, 13 or 14 digits, and its last digit must fit.",
      "5 reference_cost: A price cannot be negative.",
    ]);
    expect(items()).toBe(before);
  });

  it("finds what does not fit what is here: codes, units, twins, kinds", () => {
    expect(faults(load("items", "code,name,unit\nX1,One,fathom\nX2,Two,each\nx2,Two again,each\n"))).toEqual([
      expect.stringMatching(/^2 unit: No such unit\. We know /),
      "4 code: This stands in the file twice: line 3 says it, too.",
    ]);
    expect(faults(load("prices", "item,supplier,from,price\nOIL,BAW,1,5\nNIX,TTL,1,5\n"))).toEqual([
      "2 item: This supplier is not set up for this item. Load the sourcing records first.",
      "3 item: There is no item of this code. Load the items first.",
    ]);
    expect(faults(load("jobs", "job,item,store,due,quantity\n9,OIL,TQ,2026-02-30,5\n9,OIL,TQ,24.12.2026,0\n"))).toEqual(
      [
        "2 due: There is no such date.",
        "3 due: Write the date like 2026-11-24.",
        "3 quantity: A quantity must be above zero.",
      ],
    );
    expect(faults(load("items", "code,name,unit\nOIL,Hydraulic oil,each\n"))).toEqual([
      "2 unit: The stock unit cannot change: goods were moved in the old one.",
    ]);
  });

  it.each([
    ["", "1 : The file is empty."],
    ["code,name\nA,B\n", "1 unit: The column “unit” is missing."],
    ["code,name,unit,colour\nA,B,each,red\n", expect.stringMatching(/^1 colour: There is no such column/)],
    ['code,name,unit\nA,"B,each\n', expect.stringMatching(/quotation marks do not match/)],
    ["code,name,unit\nA,B\n", "2 : This row has 2 fields, the first line has 3."],
    ["code,name,unit\n", "1 : There is no row below the first line."],
  ])("says what is wrong with %j", (text, says) => {
    expect(faults(load("items", text))).toEqual([says]);
  });

  it("says where the encoding is wrong, and refuses what is too large or no text", () => {
    const latin1 = Buffer.from("code,name,unit\nA,Anker,each\nB,B\u00f8ye,each\n", "latin1");
    expect(faults(load("items", latin1))).toEqual([
      "3 : The file is not written in UTF-8, from line 3 on. Save it as CSV in UTF-8.",
    ]);
    expect(faults(load("items", Buffer.from("\uFEFFcode,name", "utf16le")))[0]).toMatch(/UTF-16/);
    expect(faults(load("items", new Uint8Array(20_000_001)))).toEqual(["1 : The file is larger than 20 MB. Split it."]);
    expect(faults(load("items", "code,name,unit\nA,\u0000B,each\n"))).toEqual([
      "2 : There is a NUL here: this is not a text file.",
    ]);
  });

  it("counts stock through movements, so that the sum still holds", () => {
    expect(load("stock", "item,store,on_hand,lot\nOIL,TQ,500,1600\nROP,HS,25,220\n")).toMatchObject({
      ok: true,
      value: { added: 1, changed: 1 },
    });
    expect(sql(h.db, "SELECT kind, quantity FROM movement ORDER BY id DESC LIMIT 2").all()).toEqual([
      { kind: "opening", quantity: 250_000 },
      { kind: "count", quantity: 1_600_000 },
    ]);
    expect(brokenTruths(h.db)).toEqual([]);
  });

  it("loads again what it saved, changing nothing", () => {
    const more: [(typeof FILE_KINDS)[number], string][] = [
      ["rates", "currency,day,rate\nGBP,2026-01-01,1.15\n"],
      ["accounts", "code,name\n4620,Repairs\n"],
      ["budgets", "code,name,starts,ends,amount\nYARD,Yard,2026-01-01,2026-12-31,38500.50\n"],
      ["alternatives", "item,other,both_ways,note\nOIL,ROP,no,only for a day\n"],
      ["lots", "item,store,lot,on_hand,expires,held\nOIL,TQ,L-1,40,2027-01-01,\nOIL,TQ,L-2,10,,leaks\n"],
      ["usage", "item,store,day,quantity\nOIL,TQ,2026-11-20,12.5\n"],
      ["outputs", "job,item,store,due,quantity\n2291,ROP,TQ,2026-12-08,20\n"],
      [
        "orders",
        "order,supplier,store,item,quantity,required,promised,price\nPO/7,TTL,TQ,OIL,2,2026-12-01,2026-12-03,650.00\n",
      ],
      ["needs", "item,store,quantity,needed_by,note\nANO,HS,3,2026-12-24,refit\n"],
    ];
    for (const [kind, text] of more)
      expect(load(kind, text, ".", kind === "needs" ? "ines" : "osk"), kind).toMatchObject({ ok: true });
    for (const kind of FILE_KINDS) {
      const saved = saveFile(h.db, kind);
      expect(saved.trim().split("\n").length, kind).toBeGreaterThan(1);
      if (kind === "needs") continue; // the same need again is another need
      expect(load(kind, saved), kind).toMatchObject({ ok: true, value: { added: 0 } });
      expect(saveFile(h.db, kind)).toBe(saved);
    }
    expect(brokenTruths(h.db)).toEqual([]);
  });

  it("knows calendars, buyers and accounts, and what is wrong with them", () => {
    expect(
      faults(
        load(
          "suppliers",
          "code,name,currency,delivers,region,cut_off,buyer\nTTL,T,EUR,,XX-1,24,joss\nBAW,B,EUR,never,,,\n",
        ),
      ),
    ).toEqual(["2 cut_off: A whole number from 1 to 23.", "3 delivers: Weekdays like mon tue wed thu fri."]);
    expect(faults(load("suppliers", "code,name,currency,region,buyer\nTTL,T,EUR,XX-1,\nBAW,B,EUR,NO,joss\n"))).toEqual([
      "2 region: We know no holidays of such a region. Write a country like NO, or a part like GB-SCT.",
      "3 buyer: There is no buyer who signs in by this name.",
    ]);
    expect(faults(load("stores", "code,name,receives,region\nTQ,T,mon,ATLANTIS\n"))[0]).toMatch(/^2 region/);
    expect(faults(load("items", "code,name,unit,account\nOIL,Oil,L,9999\n"))).toEqual([
      "2 account: There is no account of this code. Load the accounts first.",
    ]);
    expect(faults(load("budgets", "code,name,starts,ends,amount\nB,B,2026-02-01,2026-01-01,5\n"))).toEqual([
      "2 ends: The last day lies before the first.",
    ]);
  });

  it("questions factors, lead times, minimums, old stock and rings of alternatives", () => {
    expect(
      faults(
        load(
          "sourcing",
          "item,supplier,unit,factor,lead_days\nOIL,BAW,keg,0,3\nANO,TTL,each,1,3000\nROP,BAW,fathom,1,3\n",
        ),
      ),
    ).toEqual([
      "2 factor: A factor is above zero: how many stock units are in one purchase unit.",
      "3 lead_days: From 0 to 730 days. A longer lead time is better ordered by a blanket order.",
      expect.stringMatching(/^4 unit: No such unit/),
    ]);
    const noted = load("sourcing", "item,supplier,unit,factor,lead_days,minimum,multiple\nOIL,BAW,keg,20,3,5,2\n");
    expect(noted).toMatchObject({
      ok: true,
      value: { notes: [{ line: 2, column: "minimum", says: "The least is no multiple of 2: orders begin at 6." }] },
    });
    expect(
      faults(
        load("stock", "item,store,on_hand,policy,reorder_point,level\nOIL,TQ,-5,shortfall,1,\nANO,TQ,5,top up,40,30\n"),
      ),
    ).toEqual([
      "2 on_hand: Stock cannot be below zero. Write 0, and have the shelf counted.",
      "3 level: The level lies below the reorder point, so topping up would never reach it.",
    ]);
    expect(faults(load("alternatives", "item,other\nOIL,ANO\nANO,ROP\nROP,OIL\nOIL,OIL\n"))).toEqual([
      "2 other: This leads back to itself: OIL, ANO, ROP, OIL. Mark one of them both_ways instead.",
      "3 other: This leads back to itself: ANO, ROP, OIL, ANO. Mark one of them both_ways instead.",
      "4 other: This leads back to itself: ROP, OIL, ANO, ROP. Mark one of them both_ways instead.",
      "5 other: An item cannot stand in for itself.",
    ]);
    expect(faults(load("lots", "item,store,lot,on_hand\nOIL,TQ,L-1,341\n"))).toEqual([
      "2 on_hand: Only 340 is on hand for this lot. Load the stock first, or count again.",
    ]);
    expect(faults(load("usage", "item,store,day,quantity\nOIL,TQ,2026-11-25,4\n"))).toEqual([
      "2 day: This day is still to come.",
    ]);
    expect(brokenTruths(h.db)).toEqual([]);
  });

  it("gives back what was saved: each contact of a supplier keeps its name, and no text is a formula", () => {
    const supplier = h.id("supplier", "TTL");
    sql(h.db, "DELETE FROM supplier_contact WHERE supplier = ?").run(supplier);
    for (const [name, mail] of [
      ["Dorrit Pell", "d@ttl.example"],
      ["Ola Nord", "o@ttl.example"],
      ["=cmd|x", "x@ttl.example"],
    ])
      sql(h.db, "INSERT INTO supplier_contact (supplier, name, mail) VALUES (?, ?, ?)").run(supplier, name, mail);
    sql(h.db, "UPDATE supplier SET address = '-2+3+cmd|''/C x''!A0' WHERE id = ?").run(supplier);
    const contacts = () =>
      sql<{ name: string; mail: string }>(
        h.db,
        "SELECT name, mail FROM supplier_contact WHERE supplier = ? AND for_orders = 1 ORDER BY mail",
      ).all(supplier);
    const before = contacts();
    const saved = saveFile(h.db, "suppliers");
    expect(saved.startsWith("\uFEFFcode,name")).toBe(true);
    expect(saved).toContain("'-2+3+cmd|");
    expect(load("suppliers", saved)).toMatchObject({ ok: true });
    expect(contacts()).toEqual(before);
    expect(saveFile(h.db, "suppliers")).toBe(saved);
    sql(h.db, "DELETE FROM supplier_contact WHERE supplier = ?").run(supplier);
    load("suppliers", saved);
    expect(contacts()).toEqual(before);
    // One name for several addresses is not written over theirs.
    load(
      "suppliers",
      "code,name,currency,contact,order_mails\nTTL,Tern & Tallow,EUR,Somebody,d@ttl.example o@ttl.example\n",
    );
    expect(contacts().map((c) => c.name)).toEqual(["Dorrit Pell", "Ola Nord"]);
  });

  it("leaves expired and held lots out of what may be used", () => {
    load(
      "lots",
      "item,store,lot,on_hand,expires,held\nOIL,TQ,OLD,100,2026-11-23,\nOIL,TQ,BAD,40,,leaks\nOIL,TQ,NEW,50,2026-11-24,\n",
    );
    // What expires today is on hand today, and no longer on the day of need.
    expect(readNeeds(h.db, usualPlan(TODAY)).find((n) => n.code === "OIL")!.stock).toMatchObject({ onHand: 1_500_000 });
  });

  it("brings orders that are open elsewhere: placed, numbered, and counted as on their way", () => {
    const text =
      "order,supplier,store,item,quantity,required,promised,price\nPO/7,TTL,TQ,OIL,2,2026-12-01,2026-12-03,650.00\nPO/7,TTL,TQ,ROP,1,2026-12-01,,\n";
    expect(load("orders", text)).toMatchObject({ ok: true, value: { added: 2 } });
    expect(sql(h.db, "SELECT number, state, brought, net FROM purchase_order").all()).toEqual([
      { number: "26-1001", state: "With supplier", brought: "PO/7", net: 259_800 },
    ]);
    expect(readNeeds(h.db, usualPlan(TODAY)).find((n) => n.code === "OIL")).toBeUndefined(); // 340 − 260 + 400 by the third
    expect(load("orders", text.replace("2026-12-03", "2026-12-09"))).toMatchObject({
      ok: true,
      value: { changed: 1, same: 1 },
    });
    expect(
      faults(load("orders", "order,supplier,store,item,quantity,required\nPO/7,TTL,TQ,ANO,1,2026-12-01\n")),
    ).toEqual(["2 order: This order was loaded before, without this line."]);
    expect(
      faults(
        load(
          "orders",
          "order,supplier,store,item,quantity,required\nPO/8,TTL,TQ,OIL,1,2026-12-01\nPO/8,BAW,TQ,ANO,1,2026-12-01\n",
        ),
      ),
    ).toEqual(["3 order: Another row of this order names another supplier or store."]);
    expect(brokenTruths(h.db)).toEqual([]);
  });

  it("takes needs by any code and in any unit of the item", () => {
    const answer = load(
      "needs",
      "item,quantity,unit,store\nTT-46,2,drum,TQ\n4006381333931,3,,TQ\nROP,1,CL,TQ\n",
      ".",
      "ines",
    );
    expect(answer).toMatchObject({ ok: true, value: { added: 3 } });
    expect(
      readNeeds(h.db, usualPlan(TODAY))
        .filter((n) => n.source === "file")
        .map((n) => [n.code, n.wanted]),
    ).toEqual([
      ["OIL", 4_000_000],
      ["ANO", 30_000],
      ["ROP", 2_200_000],
    ]);
    expect(
      faults(
        load(
          "needs",
          "item,quantity,unit,needed_by,store\nOIL,1,coil,,TQ\nOIL,1,,2026-11-01,TQ\nX,1,,,TQ\nANO,1,,,\n",
          ".",
          "ines",
        ),
      ),
    ).toEqual([
      "2 unit: Hydraulic oil is kept or sold in L, drum.",
      "3 needed_by: This day has passed.",
      "4 item: No item has this code, neither ours nor a supplier’s nor a GTIN.",
      "5 store: Name a store: you have none of your own.",
    ]);
  });

  it("is the administrator’s alone", () => {
    expect(refusal(load("items", "code,name,unit\nA,B,each\n", ".", "ines") as Done<unknown>)).toEqual([
      "Your role does not allow this.",
    ]);
  });
});
