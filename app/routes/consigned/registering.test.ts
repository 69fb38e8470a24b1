import { expect, it } from "vitest";
import { readScan } from "../../../exchange/gs1/scan";
import type { ToRegister } from "../../../server/queries/consigned/to-register";
import { anotherLot, fitted, newDelivery, partsToSend, scanPart, sentAt, setPart } from "./registering";

const item = (n: number, more: Partial<ToRegister> = {}): ToRegister => ({
  item: n,
  code: `T-${n}`,
  theirCode: `S${n}`,
  gtin: null,
  name: `Thing ${n}`,
  unit: "each",
  byLot: false,
  here: 0,
  coming: 0,
  most: 0,
  ...more,
});
const scan = (text: string) => {
  const read = readScan(text);
  if (!read.ok) throw new Error(read.says);
  return read.value;
};

it("a delivery has a part for each item, and sends those that were typed", () => {
  let d = newDelivery([item(1), item(2)]);
  d = setPart(d, 1, { quantity: "5" });
  expect(partsToSend(d)).toEqual([{ item: 2, quantity: "5", lot: "", expires: "", bin: "" }]);
  expect([sentAt(d, 0), sentAt(d, 1)]).toEqual([-1, 0]);
  d = anotherLot(d, 1);
  expect(d.parts.map((p) => p.item)).toEqual([1, 1, 2]);
  expect(fitted(d, [item(2), item(3)]).parts.map((p) => p.item)).toEqual([2, 3]);
});

it("a scan counts one, or what its code says, by our code, theirs or GTIN; another lot is another part", () => {
  const gtin = "4006381333931";
  const items = [item(1, { gtin, byLot: true }), item(2)];
  let d = newDelivery(items);
  for (const text of ["t-2", "S2", `(01)0${gtin}(10)A`, `(01)0${gtin}(10)A`, `(01)0${gtin}(10)B(37)12`])
    d = scanPart(d, items, scan(text))!.next;
  expect(d.parts).toEqual([
    { item: 1, quantity: "2", lot: "A", expires: "", bin: "" },
    { item: 1, quantity: "12", lot: "B", expires: "", bin: "" },
    { item: 2, quantity: "2", lot: "", expires: "", bin: "" },
  ]);
  expect(scanPart(d, items, scan("X-9"))).toBeNull();
});
