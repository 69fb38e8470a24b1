import { composeIBAN } from "ibantools";
import { addDays, type Day, monthEnd } from "../core/calendar/day";
import type { OrderId, OrderLineId, SupplierId } from "../core/ids";
import { priceText } from "../core/numbers/money";
import { quantityText } from "../core/numbers/quantity";
import type { Desk, Done } from "../server/acts/desk";
import { addLines } from "../server/acts/orders/add-lines";
import { startOrder } from "../server/acts/orders/start-order";
import { receiveGoods } from "../server/acts/receiving/receive-goods";
import { answerByHand } from "../server/acts/settling/bank-answers";
import { closeBooks } from "../server/acts/settling/close-books";
import { claimHold } from "../server/acts/settling/decide-invoice";
import { enterInvoice } from "../server/acts/settling/enter-invoice";
import { keepOurAccount, keepSupplierAccount } from "../server/acts/settling/keep-account";
import { releasePayList, writePayList } from "../server/acts/settling/pay-lists";
import { type Db, sql } from "../server/db/open";
import { readInvoiceHead } from "../server/queries/settling/invoices";
import { type BillableLine, billableOfOrder } from "../server/queries/settling/ordered";
import { readPayList } from "../server/queries/settling/pay-lists";
import { type PayableRow, readPayables } from "../server/queries/settling/payables";

/** An account at a made-up bank, with its check digits. */
const ibanOf = (country: string, bank: string, number: number) =>
  composeIBAN({
    countryCode: country,
    bban: `${bank.slice(0, 4)}${bank.slice(4)}${String(number).padStart(12, "0")}`,
  })!;

interface Tools {
  db: Db;
  today: Day;
  desk: (login: string, day: Day, time?: string) => Desk;
  must: <T>(answer: Done<T>) => T;
  /** The oil and grease that came yesterday, a drum short. */
  crane: OrderId;
}
type Ordering = Pick<Tools, "db" | "desk" | "must"> & { idOf: (table: "supplier" | "store", code: string) => number };

/** Oil and grease for the crane at Holm Slip, which is no stock of ours: 5 drums, 3 kegs, and their freight. */
export function orderForTheCrane({ desk, must, idOf }: Ordering, day: Day): OrderId {
  const { order } = must(
    startOrder(desk("ines", day, "09:10"), {
      supplier: idOf("supplier", "TTL"),
      store: idOf("store", "HS"),
      kind: "one-off",
    }),
  );
  must(
    addLines(desk("ines", day, "09:12"), {
      order,
      version: 1,
      add: [
        { kind: "not stocked", words: "Gearbox oil, SAE 90, for the crane", unit: "XDR", quantity: "5", price: "624" },
        { kind: "not stocked", words: "Slew ring grease", unit: "XKG", quantity: "3", price: "212.40" },
        { kind: "charge", words: "Freight", quantity: "1", price: "95" },
      ],
    }),
  );
  return order;
}

/** A drum fewer came than was ordered; whoever helps out at Holm Slip counted. */
export function countForTheCrane({ db, desk, must }: Ordering, order: OrderId, day: Day): void {
  const [oil, grease] = sql<{ id: OrderLineId }>(
    db,
    "SELECT id FROM order_line WHERE purchase_order = ? ORDER BY position",
  ).all(order);
  const tobias = desk("tobias", day, "14:05");
  must(
    receiveGoods(
      { ...tobias, person: { ...tobias.person, store: null } },
      {
        order,
        version: sql<{ version: number }>(db, "SELECT version FROM purchase_order WHERE id = ?").get(order)!.version,
        deliveryNote: "TT 5518",
        lines: [
          { line: oil!.id, counted: "4" },
          { line: grease!.id, counted: "3" },
        ],
      },
    ),
  );
}

/** An order of a supplier by what is received and not invoiced of it: the last, or the last but so many. */
const lastOf = (db: Db, supplier: string, before = 0): OrderId =>
  sql<{ id: OrderId }>(
    db,
    `SELECT o.id FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE s.code = ? AND o.agreement IS NULL
       AND EXISTS (SELECT 1 FROM receipt r JOIN posting_entry e ON e.receipt = r.id WHERE r.purchase_order = o.id) ORDER BY o.id DESC LIMIT 1 OFFSET ?`,
  ).get(supplier, before)!.id;

/** Invoices that matched, one that claims what is missing, and some that wait: for the dock, for the buyer. */
export function enterSomeInvoices({ db, today, desk, must, crane }: Tools): void {
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
  // What is paid from and to; one of the accounts was closed, as the bank will say.
  must(
    keepOurAccount(desk("osk", back(60), "09:00"), { iban: ibanOf("IE", "KEYB93", 1), bic: "", releaseFrom: "500" }),
  );
  const CLOSED = "PUF";
  sql<{ id: SupplierId; code: string }>(db, "SELECT id, code FROM supplier ORDER BY id")
    .all()
    .forEach(({ id, code }, i) => {
      must(
        keepSupplierAccount(desk("petra", back(59), "10:00"), {
          supplier: id,
          iban: ibanOf("IE", "NCBK90", code === CLOSED ? 7_899 : 10_010 + 8 * i),
          bic: "",
        }),
      );
    });
  // A lamp that costs more than it was ordered at.
  bill(lastOf(db, "LRE"), "LRE/26/771", back(3), back(1), (l) => ({
    price: priceText(Math.round(l.price * 1.08)),
  }));
  // Five drums are billed, four are here.
  bill(crane, "TT-40117", back(1), today, (l) => (l.position === 1 ? { quantity: "5", price: "617.50" } : {}));
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
  // Statements of use were paid in October; the next list waits for a lead to release it.
  const written = (on: Day, dueBy: Day, which: (p: PayableRow) => boolean) =>
    must(
      writePayList(desk("petra", on, "16:05"), {
        day: on,
        dueBy,
        leastYearly: "10",
        papers: readPayables(db, on).flatMap((p) => (p.left > 0 && p.due <= dueBy && which(p) ? p.id : [])),
      }),
    ).list;
  const paid = written(back(44), back(44), (p) => p.statement !== null);
  const version = () => readPayList(db, paid)!.head.version;
  must(releasePayList(desk("sunniva", back(44), "16:40"), { list: paid, version: version() }));
  for (const { id: line } of readPayList(db, paid)!.lines)
    must(
      answerByHand(desk("petra", back(43), "08:50"), {
        list: paid,
        version: version(),
        line,
        how: "executed",
        day: back(44),
      }),
    );
  must(closeBooks(desk("petra", today, "08:20"), { until: monthEnd(back(75)) }));
  written(today, addDays(today, 14), (p) => p.statement !== null || p.number === "P-8841");
}
