import { decimalText } from "../../../core/numbers/decimal";
import { exponent, priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import type { FileColumn } from "../file-columns";
import type { OrderLine, OrderSheet } from "./order";

/** "5 on 2026-12-10; 3 on 2027-01-10": how a line comes in several loads; empty where it comes at once. */
const loadsText = (l: OrderLine): string =>
  l.instalments.map((n) => `${quantityText(n.quantity)} on ${n.required}`).join("; ");

/** The columns of an order's lines as a file; a file of them can be brought again. Prices are in the order's currency. */
export const lineColumns = ({ head: { currency } }: OrderSheet): readonly FileColumn<OrderLine>[] => [
  { name: "line", width: 6, cell: (l) => l.position },
  { name: "item", width: 12, cell: (l) => l.code ?? "" },
  { name: "their_code", width: 14, cell: (l) => l.theirCode },
  { name: "name", width: 36, cell: (l) => l.words },
  { name: "kind", width: 11, cell: (l) => l.kind },
  { name: "quantity", width: 10, as: "number", cell: (l) => quantityText(l.quantity) },
  { name: "unit", width: 8, cell: (l) => l.unitCode },
  { name: "price", width: 12, as: "number", cell: (l) => (l.price === null ? "" : priceText(l.price)) },
  { name: "standing_discount_percent", width: 10, as: "number", cell: (l) => decimalText(l.standing, 2) },
  { name: "discount_percent", width: 10, as: "number", cell: (l) => decimalText(l.discount, 2) },
  {
    name: "net",
    width: 13,
    as: "money",
    currency: () => currency,
    cell: (l) => decimalText(l.net, exponent(currency), exponent(currency)),
  },
  { name: "currency", width: 9, cell: () => currency },
  { name: "tax_percent", width: 8, as: "number", cell: (l) => decimalText(l.taxRate, 2) },
  { name: "wanted_by", width: 12, as: "day", cell: (l) => l.required },
  { name: "loads", width: 24, cell: loadsText },
  { name: "promised", width: 12, as: "day", cell: (l) => l.promised ?? "" },
  { name: "received", width: 10, as: "number", cell: (l) => quantityText(l.received) },
  { name: "store", width: 14, cell: (l) => l.storeName },
  { name: "account", width: 10, cell: (l) => l.account ?? "" },
  { name: "budget", width: 10, cell: (l) => l.budgetCode ?? "" },
  { name: "job", width: 10, cell: (l) => l.jobCode ?? "" },
  { name: "bin", width: 10, cell: (l) => l.bin },
  { name: "spread", width: 10, cell: (l) => (l.kind === "charge" ? l.spread : "") },
  { name: "note", width: 30, cell: (l) => l.note },
  { name: "own_note", width: 30, cell: (l) => l.ownNote },
];
