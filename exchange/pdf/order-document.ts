import type { Day } from "../../core/calendar/day";
import type { Totals } from "../../core/orders/totals";

/** An order as it leaves the house. It is kept with each version, so that any version can be printed again as it was. */
export interface OrderDocument {
  number: string | null;
  day: Day;
  company: { name: string; address: string; taxNumber: string; mail: string };
  supplier: { name: string; address: string; code: string };
  contacts: { name: string; mail: string }[];
  deliverTo: { name: string; address: string };
  writer: { name: string; title: string; mail: string };
  currency: string;
  locale: string;
  required: Day;
  termsDays: number;
  note: string;
  lines: {
    position: number;
    ours: string | null;
    theirs: string;
    words: string;
    quantity: number;
    unit: string;
    price: number | null;
    discount: number;
    standing: number;
    required: Day;
    net: number;
  }[];
  discountRate: number;
  linesNet: number;
  discount: number;
  net: number;
  taxes: { rate: number; base: number; tax: number }[];
  taxed: boolean;
  total: number;
}

interface Head {
  number: string | null;
  supplierName: string;
  supplierAddress: string;
  supplierCode: string;
  storeName: string;
  storeAddress: string;
  currency: string;
  required: Day;
  termsDays: number;
  note: string;
  discount: number;
  taxed: boolean;
}

interface Line {
  position: number;
  code: string | null;
  theirCode: string;
  words: string;
  quantity: number;
  unit: string;
  price: number | null;
  discount: number;
  standing: number;
  required: Day;
  net: number;
}

/** Puts the parts of an order together as its paper. */
export function orderDocument(
  company: OrderDocument["company"] & { locale: string },
  head: Head,
  lines: readonly Line[],
  totals: Totals,
  contacts: OrderDocument["contacts"],
  writer: OrderDocument["writer"],
  day: Day,
): OrderDocument {
  return {
    number: head.number,
    day,
    company: { name: company.name, address: company.address, taxNumber: company.taxNumber, mail: company.mail },
    supplier: { name: head.supplierName, address: head.supplierAddress, code: head.supplierCode },
    contacts: contacts.map(({ name, mail }) => ({ name, mail })),
    deliverTo: { name: head.storeName, address: head.storeAddress },
    writer,
    currency: head.currency,
    locale: company.locale,
    required: head.required,
    termsDays: head.termsDays,
    note: head.note,
    lines: lines.map((l) => ({
      position: l.position,
      ours: l.code,
      theirs: l.theirCode,
      words: l.words,
      quantity: l.quantity,
      unit: l.unit,
      price: l.price,
      discount: l.discount,
      standing: l.standing,
      required: l.required,
      net: l.net,
    })),
    discountRate: head.discount,
    linesNet: totals.lines.minor,
    discount: totals.discount.minor,
    net: totals.net.minor,
    taxes: totals.taxes.map((t) => ({ rate: t.rate, base: t.base.minor, tax: t.tax.minor })),
    taxed: head.taxed,
    total: totals.total.minor,
  };
}
