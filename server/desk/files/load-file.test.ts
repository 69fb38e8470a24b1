import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { FILE_KINDS } from "../../../exchange/csv/kinds";
import { sql } from "../../db/open";
import { brokenTruths } from "../../read/always-true";
import { saveFile } from "../../read/records/save-file";
import { refusal, type TestHouse, testHouse } from "../../testing";
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
      "4 code: This stands in the file twice.",
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
    expect(faults(load("items", "code,name,unit\nA,\u0000B,each\n"))).toEqual(["1 : This is not a text file."]);
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
    for (const kind of FILE_KINDS) {
      const saved = saveFile(h.db, kind);
      if (saved.trim().split("\n").length < 2) continue; // no rates here
      expect(load(kind, saved)).toMatchObject({ ok: true, value: { added: 0 } });
      expect(saveFile(h.db, kind)).toBe(saved);
    }
  });

  it("is the administrator’s alone", () => {
    expect(refusal(load("items", "code,name,unit\nA,B,each\n", ".", "ines") as Done<unknown>)).toEqual([
      "Your role does not allow this.",
    ]);
  });
});
