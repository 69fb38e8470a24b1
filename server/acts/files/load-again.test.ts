import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { FileKind } from "../../../exchange/csv/kinds";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { saveFile } from "../../queries/records/save-file";
import { type TestHouse, testHouse } from "../../testing";
import { loadFile } from "./load-file";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const load = (kind: FileKind, text: string, mark: "." | "," = ".") =>
  loadFile(h.desk(kind === "needs" ? "ines" : "osk"), kind, Buffer.from(text), mark);
const loaded = (kind: FileKind, text: string, mark: "." | "," = ".") => {
  const answer = load(kind, text, mark);
  if (!answer.ok) throw new Error(JSON.stringify(answer));
  return answer.value;
};
const faults = (kind: FileKind, text: string, mark: "." | "," = ".") => {
  const answer = load(kind, text, mark);
  if (answer.ok || !("faults" in answer)) throw new Error(`not faulty: ${JSON.stringify(answer)}`);
  return answer.faults.map((f) => `${f.line} ${f.column} (${f.found}): ${f.says}`);
};
const row = (text: string) => sql<Record<string, unknown>>(h.db, text).get()!;

describe("a column that a file leaves out", () => {
  it("keeps what is known of a supplier, its contacts too", () => {
    loaded(
      "suppliers",
      "code,name,address,currency,terms_days,lead_days_are,delivers,region,cut_off,taxed,contact,order_mails,order_minimum,freight,freight_free_from\nTTL,Tern,Quay 1,EUR,45,working,tue,NO,14,no,Dorrit,o@ttl.example,500,22,900\n",
    );
    const before = row("SELECT * FROM supplier WHERE code = 'TTL'");
    expect(loaded("suppliers", "code,name,currency\nTTL,Tern & Co,EUR\n")).toMatchObject({
      added: 0,
      changed: 1,
      same: 0,
      columns: { name: 1 },
    });
    expect(row("SELECT * FROM supplier WHERE code = 'TTL'")).toEqual({ ...before, name: "Tern & Co" });
    expect(saveFile(h.db, "suppliers")).toMatch(/Dorrit.*o@ttl.example/);
    // An empty cell in a column that is there empties it, as for a new one.
    loaded("suppliers", "code,name,currency,cut_off,freight\nTTL,Tern & Co,EUR,,\n");
    expect(row("SELECT * FROM supplier WHERE code = 'TTL'")).toEqual({
      ...before,
      name: "Tern & Co",
      cut_off: null,
      freight: 0,
    });
    // New addresses keep the names of those that are known.
    loaded("suppliers", "code,name,currency,order_mails\nTTL,Tern & Co,EUR,o@ttl.example p@ttl.example\n");
    expect(
      sql(
        h.db,
        "SELECT name, mail FROM supplier_contact WHERE for_orders AND supplier = (SELECT id FROM supplier WHERE code = 'TTL') ORDER BY id DESC LIMIT 2",
      ).all(),
    ).toEqual([
      { name: "", mail: "p@ttl.example" },
      { name: "Dorrit", mail: "o@ttl.example" },
    ]);
    expect(faults("suppliers", "code,name,currency\nTTL,Tern,NOK\n")).toEqual([
      "2 currency (NOK): Their order_minimum, freight_free_from stood in EUR: say them in NOK, too.",
    ]);
  });

  it.each<[FileKind, string, string, string]>([
    [
      "stores",
      "store WHERE code = 'TQ'",
      "code,name,address,receives,region\nTQ,Tarn,Gate 2,mon tue,NO\n",
      "code,name\nTQ,Tarn\n",
    ],
    [
      "items",
      "item WHERE code = 'OIL'",
      "code,name,kind,category,unit,gtin,tax,reference_cost,by_lot,weight\nOIL,Oil,stocked,oils,L,96385074,10,3.5,yes,0.9\n",
      "code,name,unit\nOIL,Oil,L\n",
    ],
    [
      "sourcing",
      "sourcing WHERE their_code = 'X1'",
      "item,supplier,their_code,their_name,unit,factor,minimum,multiple,broken_packs,lead_days,discount,rank\nOIL,TTL,X1,Oil 46,drum,200,2,2,yes,10,3,2\n",
      "item,supplier,unit,factor,lead_days\nOIL,TTL,drum,200,10\n",
    ],
    [
      "stock",
      "item_store WHERE bin = 'B4'",
      "item,store,on_hand,bin,policy,reorder_point,lot,level,cover_days,maximum,review_days\nOIL,TQ,340,B4,top up,300,200,900,14,5000,3\n",
      "item,store,on_hand\nOIL,TQ,340\n",
    ],
    [
      "jobs",
      "job, job_demand WHERE job.code = '2291'",
      "job,name,vessel,item,store,due,quantity,issued,kind\n2291,Refit,Marram,OIL,TQ,2026-12-01,260,60,customer order\n",
      "job,item,store,due,quantity\n2291,OIL,TQ,2026-12-01,260\n",
    ],
    [
      "outputs",
      "job_output",
      "job,item,store,due,quantity,given\n2291,ROP,TQ,2026-12-08,20,5\n",
      "job,item,store,due,quantity\n2291,ROP,TQ,2026-12-08,20\n",
    ],
    ["alternatives", "alternative", "item,other,both_ways,note\nOIL,ANO,yes,for a day\n", "item,other\nOIL,ANO\n"],
    [
      "prices",
      "price_break WHERE valid_to IS NOT NULL",
      "item,supplier,from,price,valid_from,valid_to\nOIL,TTL,20,570,2026-01-01,2026-12-31\n",
      "item,supplier,from,price,valid_from\nOIL,TTL,20,570,2026-01-01\n",
    ],
    [
      "lots",
      "lot",
      "item,store,lot,on_hand,expires,held\nOIL,TQ,L-1,40,2027-01-01,leaks\n",
      "item,store,lot,on_hand\nOIL,TQ,L-1,40\n",
    ],
    [
      "orders",
      "order_line",
      "order,supplier,store,item,quantity,required,promised\nPO/7,TTL,TQ,OIL,2,2026-12-01,2026-12-03\n",
      "order,supplier,store,item,quantity,required\nPO/7,TTL,TQ,OIL,2,2026-12-01\n",
    ],
  ])("keeps what is known: %s", (kind, from, whole, short) => {
    loaded(kind, whole);
    const before = row(`SELECT * FROM ${from}`);
    expect(loaded(kind, short)).toMatchObject({ added: 0, changed: 0, same: 1, columns: {} });
    expect(row(`SELECT * FROM ${from}`)).toEqual(before);
  });

  it("leaves what changed in the trail, before and after", () => {
    loaded("items", "code,name,unit,tax\nOIL,Oil,L,10\nANO,Hull anode,each,20\n");
    const { detail } = sql<{ detail: string }>(h.db, "SELECT detail FROM audit ORDER BY id DESC LIMIT 1").get()!;
    expect(JSON.parse(detail).differences).toEqual({ OIL: { name: ["Hydraulic oil", "Oil"], tax: [2000, 1000] } });
  });

  it("holds reorder settings together that stand half in the file and half in the company's", () => {
    expect(faults("stock", "item,store,on_hand,level\nANO,TQ,60,10\n")).toEqual([
      "2 level (10): The level lies below the reorder point, so topping up would never reach it.",
    ]);
  });
});

describe("what a file cannot do", () => {
  it("lets go a lot that is held where another store's row is silent about it", () => {
    loaded("stock", "item,store,on_hand,policy\nOIL,HS,30,to order\n");
    loaded("lots", "item,store,lot,on_hand,expires,held\nOIL,TQ,L-1,40,2027-01-01,leaks\nOIL,HS,L-1,30,,\n");
    const lot = () => row("SELECT held, expires FROM lot");
    expect(lot()).toEqual({ held: "leaks", expires: "2027-01-01" });
    expect(loaded("lots", "item,store,lot,on_hand,held\nOIL,HS,L-1,30,\n").notes).toEqual([
      {
        line: 2,
        column: "held",
        found: "",
        says: "Stays held (leaks): it lies in TQ, too, which the file does not name.",
      },
    ]);
    expect(lot()).toEqual({ held: "leaks", expires: "2027-01-01" });
    expect(faults("lots", "item,store,lot,on_hand,held\nOIL,TQ,L-1,40,leaks\nOIL,HS,L-1,30,rust\n")).toEqual([
      "3 held (rust): Line 2 says something else of the same: leaks.",
    ]);
    loaded("lots", "item,store,lot,on_hand,held\nOIL,TQ,L-1,40,\nOIL,HS,L-1,30,\n");
    expect(lot()).toEqual({ held: "", expires: "2027-01-01" });
  });

  it("takes stock below its lots, makes a service of what a store keeps, or jobs need what is no stock", () => {
    loaded("items", "code,name,unit,by_lot\nOIL,Hydraulic oil,L,yes\n");
    loaded("lots", "item,store,lot,on_hand\nOIL,TQ,L-1,300\n");
    expect(faults("stock", "item,store,on_hand\nOIL,TQ,299\n")).toEqual([
      "2 on_hand (299): 300 of it lie in lots. Load the lots first, or count them.",
    ]);
    // Stock alone, where it says nothing wrong about lots.
    expect(loaded("stock", "item,store,on_hand\nOIL,TQ,310\n")).toMatchObject({ changed: 1, columns: { on_hand: 1 } });
    expect(faults("items", "code,name,unit,kind\nOIL,Hydraulic oil,L,service\n")).toEqual([
      "2 kind (service): A store keeps this item, so it stays stocked.",
    ]);
    loaded("items", "code,name,unit,kind\nFIT,Fitting,hour,service\n");
    expect(faults("jobs", "job,item,store,due,quantity\n1,FIT,TQ,2026-12-01,2\n")).toEqual([
      "2 item (FIT): This is a service: ask for it by a requisition.",
    ]);
  });

  it("brings an order whose line costs nobody knows what", () => {
    loaded("items", "code,name,unit\nNEW,A new thing,each\n");
    loaded("sourcing", "item,supplier,unit,factor,lead_days\nNEW,TTL,each,1,3\n");
    const text = "order,supplier,store,item,quantity,required,price\nP1,TTL,TQ,NEW,2,2026-12-01,";
    expect(faults("orders", `${text}\n`)).toEqual([
      "2 price (): Nothing says what this costs, no price list and no reference cost. Write the price.",
    ]);
    expect(loaded("orders", `${text}12.50\n`)).toMatchObject({ added: 1 });
  });
});

describe("numbers in a file", () => {
  const stock =
    (n: string, mark: "." | "," = ".") =>
    () =>
      faults("stock", `item;store;on_hand\nOIL;TQ;${n}\n`, mark);
  it.each(["12,5", "0,500", "1,250", "1,250,000", '"0,500"'])("are never read as thousands: %s", (n) => {
    expect(stock(n)()).toEqual([expect.stringMatching(/numbers of this file have a point. Say how they are written/)]);
  });

  it("are asked about the other way round, and taken where nothing is in doubt", () => {
    expect(stock("1.250", ",")()).toEqual([
      "2 on_hand (1.250): “1.250” stands with a point, and numbers of this file have a comma. Say how they are written, and leave out groups of thousands.",
    ]);
    loaded("stock", "item;store;on_hand\nOIL;TQ;1.250,5\n", ",");
    expect(row("SELECT on_hand FROM item_store WHERE item = 1 AND store = 1")).toEqual({ on_hand: 12_505_000 });
  });

  it("are found as they stand in the file", () => {
    expect(faults("jobs", "job,item,store,due,quantity,issued\n9,OIL,TQ,2026-12-01,5.50,6.0\n")).toEqual([
      "2 issued (6.0): More was issued than the job asks for.",
    ]);
  });
});

it("of very many faults the first two hundred are listed, with the count", () => {
  const answer = load("items", `code,name,unit\n${"A B,x,each\n".repeat(3_412)}`);
  expect(answer).toMatchObject({
    ok: false,
    count: 3_412,
    problems: [{ says: "Nothing was loaded: 3412 faults in the file, the first 200 of them here." }],
  });
  expect("faults" in answer && answer.faults.length).toBe(200);
});
