import { type OrderSheet, orderTotals, worthOf } from "../orders/order";

/**
 * An order as both sides have agreed on it, for its paper: its lines on the days that were promised, where they were,
 * without what will not come any more.
 */
export function agreedSheet(sheet: OrderSheet): OrderSheet {
  const { currency, discount } = sheet.head;
  const lines = sheet.lines
    .filter((l) => l.quantity > l.closedShort)
    .map((l) => {
      const agreed = {
        ...l,
        quantity: l.quantity - l.closedShort,
        required: l.promised ?? l.required,
        instalments: l.instalments
          .filter((s) => s.quantity > s.closedShort)
          .map((s) => ({ ...s, quantity: s.quantity - s.closedShort, required: s.promised ?? s.required })),
      };
      return { ...agreed, net: l.closedShort > 0 ? worthOf(agreed, currency) : l.net };
    });
  return { ...sheet, lines, totals: orderTotals(lines, discount, currency) };
}
