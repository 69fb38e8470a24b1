import { parse } from "csv-parse/sync";
import { afterEach, beforeEach, expect, it } from "vitest";
import { loadFile } from "../../acts/files/load-file";
import { must, type TestHouse, TODAY, testHouse } from "../../testing";
import { NEED_FILE_COLUMNS, needFile } from "./export";
import { readNeeds, usualPlan } from "./needs";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

async function written(kind: "csv" | "json"): Promise<string> {
  let text = "";
  for await (const part of needFile(h.db, readNeeds(h.db, usualPlan(TODAY, 9)), kind)) text += part;
  return text;
}

it("writes needs as other programs read them, the same in CSV and JSON", async () => {
  must(
    loadFile(
      h.desk("ines"),
      "needs",
      Buffer.from("item,store,quantity,needed_by\nROP,HS,30.5,2026-12-12\n"),
      ".",
    ) as never,
  );
  const csv = await written("csv");
  expect(csv.split("\n")[0]).toBe(NEED_FILE_COLUMNS.join(","));
  const rows = parse(csv, { columns: true }) as Record<string, string>[];
  expect(rows).toEqual([
    {
      item: "OIL",
      store: "TQ",
      source: "reorder",
      on_hand: "340",
      committed: "260",
      on_order: "0",
      available: "80",
      reorder_point: "400",
      policy: "larger of",
      raw_stock_qty: "1600",
      purchase_unit: "XDR",
      buy_qty: "8",
      needed_by: "2026-11-24",
      order_by: "2026-11-14",
      late_days: "10",
      supplier: "TTL",
      arrives: "2026-12-04",
    },
    {
      item: "ROP",
      store: "HS",
      source: "file",
      on_hand: "",
      committed: "",
      on_order: "",
      available: "",
      reorder_point: "",
      policy: "",
      raw_stock_qty: "30.5",
      purchase_unit: "XCL",
      buy_qty: "1",
      needed_by: "2026-12-12",
      order_by: "2026-12-07",
      late_days: "0",
      supplier: "TTL",
      arrives: "2026-11-29",
    },
  ]);
  expect(JSON.parse(await written("json"))).toEqual(rows);
});

it("writes an empty file as one", async () => {
  must(
    loadFile(h.desk("osk"), "stock", Buffer.from("item,store,on_hand,policy\nOIL,TQ,9000,to order\n"), ".") as never,
  );
  expect(await written("csv")).toBe(`${NEED_FILE_COLUMNS.join(",")}\n`);
  expect(JSON.parse(await written("json"))).toEqual([]);
});

it("says what never arrives, and gives it no days late", async () => {
  must(
    loadFile(
      h.desk("osk"),
      "suppliers",
      Buffer.from("code,name,currency,delivers\nTTL,Tern & Tallow,EUR,mon\n"),
      ".",
    ) as never,
  );
  must(loadFile(h.desk("osk"), "stores", Buffer.from("code,name,receives\nTQ,Tarn Quay,tue\n"), ".") as never);
  const [oil] = JSON.parse(await written("json")) as Record<string, string>[];
  expect([oil!.item, oil!.order_by, oil!.late_days, oil!.arrives]).toEqual(["OIL", "", "", "never"]);
});
