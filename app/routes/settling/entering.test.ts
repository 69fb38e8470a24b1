import { expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { unitPrice } from "../../../core/numbers/money";
import type { BillableLine } from "../../../server/queries/settling/ordered";
import { billedLines, expectedInvoice, fittedTo, workedOut } from "./entering";

const line = (id: number, more: Partial<BillableLine>): BillableLine => ({
  line: id,
  order: 1 as OrderId,
  orderNumber: "26-1042",
  currency: "EUR",
  kind: "stocked",
  position: id,
  words: "Gearbox oil, SAE 90",
  code: "GBX-090",
  unit: "drum",
  unitCode: "DR",
  ordered: 50_000,
  received: 40_000,
  invoiced: 0,
  price: unitPrice(624_000_000),
  standing: 0,
  discount: 0,
  orderDiscount: 0,
  taxRate: 2000,
  ...more,
});
const LINES = [
  line(1, {}),
  line(2, { ordered: 30_000, received: 30_000, price: unitPrice(212_400_000) }),
  line(3, { kind: "charge", ordered: 10_000, received: 10_000, price: unitPrice(95_000_000) }),
];

it("says what came and is not invoiced; of what has not come, what was ordered; nothing of what is invoiced", () => {
  const quantities = (lines: BillableLine[]) => expectedInvoice(lines, "").lines.map((l) => l.quantity);
  expect(quantities(LINES)).toEqual(["4", "3", "1"]);
  expect(quantities([line(1, { received: 0 }), line(2, { invoiced: 40_000 })])).toEqual(["5", ""]);
});

it("comes to what the design's example is expected to come to, and to what is typed", () => {
  const d = expectedInvoice(LINES, "2026-11-24");
  expect(workedOut(d, LINES)).toEqual({ net: 3_228_20, total: 3_873_84 });
  const typed = { ...d, lines: [{ line: 1, quantity: "5", price: "617.50" }, ...d.lines.slice(1)] };
  expect(workedOut(typed, LINES)).toEqual({ net: 3_819_70, total: 4_583_64 });
  expect(workedOut({ ...d, lines: [{ line: 1, quantity: "five", price: "1" }] }, LINES)).toBeNull();
});

it("sends what is billed, with a price only where it is another", () => {
  const d = expectedInvoice(LINES, "2026-11-24");
  const typed = {
    ...d,
    lines: [{ line: 1, quantity: "5", price: "617.5" }, { ...d.lines[1]!, quantity: "" }, d.lines[2]!],
  };
  expect(billedLines(typed, LINES)).toEqual([
    { line: 1, quantity: "5", price: "617.5" },
    { line: 3, quantity: "1" },
  ]);
});

it("keeps what was typed when other lines came in meanwhile", () => {
  const d = { ...expectedInvoice(LINES.slice(0, 1), "2026-11-24"), number: "TT-1" };
  const kept = fittedTo({ ...d, lines: [{ line: 1, quantity: "2", price: "600" }] }, LINES);
  expect(kept.number).toBe("TT-1");
  expect(kept.lines.map((l) => l.quantity)).toEqual(["2", "3", "1"]);
});
