import { afterEach, beforeEach, expect, it } from "vitest";
import { readOrder } from "../../queries/orders/order";
import { must, refusal, type TestHouse, testHouse, versionOf } from "../../testing";
import { addLines } from "./add-lines";
import { attachToOrder, detachFromOrder } from "./order-files";
import { startOrder } from "./start-order";
import { submitOrder } from "./submit-order";

let h: TestHouse;
let order: ReturnType<typeof started>;
beforeEach(() => {
  h = testHouse();
  order = started();
});
afterEach(() => h.close());

const started = () =>
  must(startOrder(h.desk("ines"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ") })).order;
const at = () => ({ order, version: versionOf(h.db, "purchase_order", order) });
const PDF = new TextEncoder().encode("%PDF-1.7 a drawing");
const attach = (more: object = {}, name = "drawing.pdf", bytes = PDF, who = "ines") =>
  attachToOrder(h.desk(who), { order, ...more }, name, bytes);
const files = () => readOrder(h.db, order)!.files.map((f) => `${f.name}${f.sent ? ", sent" : ""}`);
function submit(quantity: string): void {
  must(addLines(h.desk("ines"), { ...at(), add: [{ code: "OIL", quantity, price: "624" }] }));
  must(submitOrder(h.desk("ines"), at()));
}

it("a drawing goes along with the order, or stays with us", () => {
  must(attach({ sent: "yes" }));
  must(attach({}, "C:\\notes\\our <own>.txt", new TextEncoder().encode("not for them")));
  expect(files()).toEqual(["drawing.pdf, sent", "our _own_.txt"]);
});

it("is known by what it is, not by its name", () => {
  expect(refusal(attach({}, "drawing.pdf", new TextEncoder().encode("MZ")))).toEqual([
    "file: A PDF, a picture (PNG, JPEG), a spreadsheet, a text document or a CSV file.",
  ]);
  expect(refusal(attach({}, "page.html"))).toHaveLength(1);
  expect(refusal(attach({}, "drawing.pdf", new Uint8Array()))).toEqual(["file: This file is empty."]);
  expect(refusal(attach({}, "drawing.pdf", PDF, "tobias"))).toEqual(["Your role does not allow this."]);
  expect(files()).toEqual([]);
});

it("is taken off while the order is written, and stays once it was handed in with it", () => {
  const { file } = must(attach());
  must(detachFromOrder(h.desk("ines"), { order, attachment: file }));
  expect(refusal(detachFromOrder(h.desk("ines"), { order, attachment: file }))).toEqual(["This file is gone already."]);
  const kept = must(attach()).file;
  submit("4");
  expect(refusal(detachFromOrder(h.desk("ines"), { order, attachment: kept }))).toEqual([
    "The order was handed in with this file, so it stays.",
  ]);
  expect(refusal(attach())).toEqual(["file: It is being signed off, and nobody can change it meanwhile."]);
  expect(files()).toEqual(["drawing.pdf"]);
});

it("there are at most twenty, and none without an order", () => {
  for (let n = 0; n < 20; n++) must(attach({}, `${n}.pdf`));
  expect(refusal(attach())).toEqual(["file: At most 20 files on one order."]);
  expect(refusal(attach({ order: 999 }))).toEqual(["There is no such order."]);
});
