import type { OrderLineId } from "../../../core/ids";
import { sql } from "../../db/open";
import { readInvoice } from "../../queries/settling/invoices";
import { must, type TestHouse } from "../../testing";
import { countIn, placedOrder } from "../receiving/testing";
import { enterInvoice } from "./enter-invoice";

/** The order of the design's example: 5 drums, 3 kegs, freight; 4 drums and all kegs are counted in. */
export async function exampleOrder(h: TestHouse, drums = "4") {
  const { order, lines } = await placedOrder(h, "TTL", [
    { code: "OIL", quantity: "5", price: "624" },
    { kind: "not stocked", words: "Stern tube grease", quantity: "3", price: "212.40" },
    { kind: "charge", words: "Freight", quantity: "1", price: "95" },
  ]);
  const [oil, grease, freight] = lines as [OrderLineId, OrderLineId, OrderLineId];
  if (drums !== "0")
    must(
      countIn(h, order, [
        { line: oil, counted: drums },
        { line: grease, counted: "3" },
      ]),
    );
  return { order, oil, grease, freight };
}
type Example = Awaited<ReturnType<typeof exampleOrder>>;

/** What the supplier bills in the design's example. */
export const theirs = ({ oil, grease, freight }: Example) => [
  { line: oil, quantity: "5", price: "617.50" },
  { line: grease, quantity: "3" },
  { line: freight, quantity: "1" },
];
export const enterTheirs = (h: TestHouse, more: Record<string, unknown>, who = "lena") =>
  enterInvoice(h.desk(who), { supplier: h.id("supplier", "TTL"), number: "TT-40117", day: "2026-11-24", ...more });

export const versionOf = (h: TestHouse, invoice: number) => ({
  invoice,
  version: readInvoice(h.db, invoice)!.head.version,
});

/** What invoices and claims booked, by what the accounts are for. */
export const settlingJournal = (h: TestHouse) =>
  Object.fromEntries(
    sql<{ role: string; minor: number }>(
      h.db,
      "SELECT p.role, sum(p.minor) AS minor FROM posting p JOIN posting_entry e ON e.id = p.entry WHERE e.kind IN ('invoice', 'claim') GROUP BY p.role",
    )
      .all()
      .map((r) => [r.role, r.minor]),
  );
