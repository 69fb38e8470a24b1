import { addDays, type Day } from "../core/calendar/day";
import type { OrderId, SupplierId } from "../core/ids";
import { priceText } from "../core/numbers/money";
import { quantityText } from "../core/numbers/quantity";
import type { Desk, Done } from "../server/acts/desk";
import { claimHold } from "../server/acts/settling/decide-invoice";
import { enterInvoice } from "../server/acts/settling/enter-invoice";
import { type Db, sql } from "../server/db/open";
import { readInvoiceHead } from "../server/queries/settling/invoices";
import { type BillableLine, billableOfOrder } from "../server/queries/settling/ordered";

interface Tools {
  db: Db;
  today: Day;
  desk: (login: string, day: Day, time?: string) => Desk;
  must: <T>(answer: Done<T>) => T;
  /** The oil and grease that came yesterday, a drum short. */
  oil: OrderId;
}

/** An order of a supplier by what is received and not invoiced of it: the last, or the last but so many. */
const lastOf = (db: Db, supplier: string, before = 0): OrderId =>
  sql<{ id: OrderId }>(
    db,
    `SELECT o.id FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE s.code = ? AND o.agreement IS NULL
       AND EXISTS (SELECT 1 FROM receipt r JOIN posting_entry e ON e.receipt = r.id WHERE r.purchase_order = o.id) ORDER BY o.id DESC LIMIT 1 OFFSET ?`,
  ).get(supplier, before)!.id;

/** Invoices that matched, one that claims what is missing, and some that wait: for the dock, the buyer, accounts. */
export function enterSomeInvoices({ db, today, desk, must, oil }: Tools): void {
  const supplierOf = (order: OrderId) =>
    sql<{ supplier: SupplierId }>(db, "SELECT supplier FROM purchase_order WHERE id = ?").get(order)!.supplier;
  const bill = (
    order: OrderId,
    number: string,
    day: Day,
    came: Day,
    line: (l: BillableLine) => { quantity?: string; price?: string } = () => ({}),
  ) =>
    must(
      enterInvoice(desk("petra", came, "15:20"), {
        supplier: supplierOf(order),
        number,
        day,
        lines: billableOfOrder(db, order).map((l) => ({
          line: l.line,
          quantity: quantityText(l.kind === "charge" ? l.ordered : l.received - l.invoiced),
          ...line(l),
        })),
      }),
    ).invoice;
  const back = (days: number) => addDays(today, -days);

  // Surveys were billed as they were ordered; the last of them is not due yet.
  bill(lastOf(db, "EIS", 5), "ES 1187", back(48), back(46));
  bill(lastOf(db, "EIS", 2), "ES 1240", back(12), back(11));
  // Two refills more were billed than came: they are claimed.
  const refills = bill(lastOf(db, "PUF", 1), "P-8841", back(20), back(18), (l) => ({
    quantity: quantityText(l.received + 20_000),
  }));
  must(
    claimHold(desk("ines", back(17), "11:05"), {
      invoice: refills,
      version: readInvoiceHead(db, refills)!.version,
      reason: "quantity",
      position: 1,
      said: "Two refills fewer came than you billed.",
    }),
  );
  // A lamp that costs more than it was ordered at.
  bill(lastOf(db, "LRE"), "LRE/26/771", back(3), back(1), (l) => ({
    price: priceText(Math.round(l.price * 1.08)),
  }));
  // Five drums are billed, four are here.
  bill(oil, "TT-40117", back(1), today, (l) => ({
    ...(l.code === "GBX-090" ? { quantity: "5", price: priceText(l.price - 6_500_000) } : {}),
  }));
  // What no order has.
  must(
    enterInvoice(desk("petra", today, "15:40"), {
      supplier: supplierOf(lastOf(db, "EIS")),
      number: "ES 1261",
      day: back(2),
      others: [
        { words: "Travel to Holm Slip, survey put off by weather", account: "4620", net: "184.00", taxRate: "20" },
      ],
    }),
  );
}
