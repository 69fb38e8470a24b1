import { type Day, parseDay } from "../../core/calendar/day";
import { checkDigit } from "../../core/numbers/check-digit";
import { clip, type DecimalMark, decimalText, parseDecimal } from "../../core/numbers/decimal";
import { moneyText, parsePrice } from "../../core/numbers/money";
import { parseQuantity } from "../../core/numbers/quantity";
import { plainText } from "../../core/text";
import type { CheckedRow, Column } from "./table";

/** The files an administrator loads and saves. Columns carry the names that stand in the first line of the file. */
export const FILE_KINDS = [
  "stores",
  "rates",
  "accounts",
  "budgets",
  "items",
  "suppliers",
  "sourcing",
  "prices",
  "alternatives",
  "stock",
  "lots",
  "usage",
  "jobs",
  "outputs",
  "orders",
  "needs",
] as const;
export type FileKind = (typeof FILE_KINDS)[number];

type Read<T> = Column<T>["read"];
const ok = <T>(value: T) => ({ ok: true as const, value });
const no = (says: string) => ({ ok: false as const, says });

const text =
  (most: number): Read<string> =>
  (c) =>
    c.length > most ? no(`At most ${most} characters; this has ${c.length}.`) : ok(plainText(c));
const code: Read<string> = (c) =>
  /^[\p{L}\p{N}][\p{L}\p{N}._/+-]{0,39}$/u.test(c)
    ? ok(c)
    : no("A code has at most 40 letters, digits and . _ / + - without spaces.");
const oneOf =
  <const L extends string>(...list: L[]): Read<L> =>
  (c) => {
    const found = list.find((word) => word === c.toLowerCase());
    return found ? ok(found) : no(`Use one of: ${list.join(", ")}.`);
  };
/**
 * A file is not typed into a field that shows how it was understood: "1,250" may be 1.25 as well as 1250, so groups of
 * thousands are taken only beside a decimal mark ("1,250.00").
 */
const inFile =
  (read: Read<number>): Read<number> =>
  (c, mark) => {
    const other = mark === "." ? "," : ".";
    const at = c.lastIndexOf(other);
    if (at < 0 || c.indexOf(mark, at) > 0) return read(c, mark);
    const [with_, has] = mark === "." ? ["a comma", "a point"] : ["a point", "a comma"];
    return no(
      `“${clip(c)}” stands with ${with_}, and numbers of this file have ${has}. Say how they are written, and leave out groups of thousands.`,
    );
  };
const quantity: Read<number> = inFile((c, mark) => parseQuantity(c, mark));
const quantityOrZero: Read<number> = inFile((c, mark) => parseQuantity(c, mark, "zero allowed"));
const onHand: Read<number> = inFile((c, mark) => {
  const p = parseQuantity(c, mark, "zero allowed");
  return !p.ok && p.says === "A quantity cannot be negative."
    ? no("Stock cannot be below zero. Write 0, and have the shelf counted.")
    : p;
});
const factor: Read<number> = inFile((c, mark) => {
  const p = parseQuantity(c, mark, "zero allowed");
  return p.ok && p.value === 0 ? no("A factor is above zero: how many stock units are in one purchase unit.") : p;
});
const lead: Read<number> = inFile((c, mark) => {
  const p = parseDecimal(c, 0, mark);
  return p.ok && (p.value < 0 || p.value > 730)
    ? no("From 0 to 730 days. A longer lead time is better ordered by a blanket order.")
    : p;
});
const price: Read<number> = inFile((c, mark) => parsePrice(c, mark));
const whole = (least: number, most: number): Read<number> =>
  inFile((c, mark) => {
    const p = parseDecimal(c, 0, mark);
    return p.ok && (p.value < least || p.value > most) ? no(`A whole number from ${least} to ${most}.`) : p;
  });
const percent: Read<number> = inFile((c, mark) => {
  const p = parseDecimal(c.replace("%", ""), 2, mark);
  return p.ok && (p.value < 0 || p.value > 10_000) ? no("Between 0 and 100.") : p;
});
const yes: Read<number> = (c) =>
  /^(yes|1|true)$/i.test(c) ? ok(1) : /^(no|0|false)$/i.test(c) ? ok(0) : no("Write yes or no.");
const day: Read<Day> = (c) => {
  const d = parseDay(c);
  return d ? ok(d) : no(/^\d{4}-\d\d-\d\d$/.test(c) ? "There is no such date." : "Write the date like 2026-11-24.");
};
const currency: Read<string> = (c) => {
  const known = /^[A-Z]{3}$/.test(c) && Intl.supportedValuesOf("currency").includes(c);
  return known ? ok(c) : no("A currency by its three letters, such as EUR.");
};
const mails: Read<string[]> = (c) => {
  const list = c.split(/[,;\s]+/).filter(Boolean);
  const wrong = list.find((m) => !/^[^@\s]+@[^@\s]+\.[^@\s]+$/.test(m));
  return wrong ? no(`“${clip(wrong)}” is not an e-mail address.`) : ok(list);
};
const gtin: Read<string> = (c) =>
  /^\d{8}$|^\d{12,14}$/.test(c) && checkDigit(c)
    ? ok(c)
    : no("A GTIN has 8, 12, 13 or 14 digits, and its last digit must fit.");

export const WEEKDAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"] as const;
const weekdays: Read<number> = (c) => {
  const names = c
    .toLowerCase()
    .split(/[\s,/]+/)
    .filter(Boolean);
  const week: readonly string[] = WEEKDAYS;
  const places = names.map((n) => week.indexOf(n));
  return places.includes(-1) || names.length === 0
    ? no("Weekdays like mon tue wed thu fri.")
    : ok(places.reduce((days, place) => days | (1 << place), 0));
};
export const weekdayText = (days: number) => WEEKDAYS.filter((_, i) => days & (1 << i)).join(" ");

const must = <const N extends string, T>(name: N, read: Read<T>, hint: string): Column<T, N> => ({
  name,
  read,
  hint,
  required: true,
});
const can = <const N extends string, T, E extends NoInfer<T> | null = null>(
  name: N,
  read: Read<T>,
  hint: string,
  empty?: E,
): Column<T | E, N> => ({ name, read, hint, required: false, empty });

export const COLUMNS = {
  stores: [
    must("code", code, "the store’s code"),
    must("name", text(80), "the store’s name"),
    can("address", text(300), "address", ""),
    can("receives", weekdays, "weekdays on which it takes goods in", 31),
    can("region", text(10), "region whose public holidays it keeps, such as NO or GB-SCT", ""),
  ],
  rates: [
    must("currency", currency, "a currency"),
    must("day", day, "from this day on"),
    must("rate", price, "home currency for one unit"),
  ],
  accounts: [must("code", code, "the account’s code"), must("name", text(80), "the account’s name")],
  budgets: [
    must("code", code, "the budget line’s code"),
    must("name", text(80), "its name"),
    must("starts", day, "first day"),
    must("ends", day, "last day"),
    must("amount", price, "amount in home currency"),
  ],
  items: [
    must("code", code, "the item’s code"),
    must("name", text(120), "the item’s name"),
    can(
      "kind",
      oneOf("stocked", "not stocked", "service", "charge"),
      "stocked, not stocked, service or charge",
      "stocked",
    ),
    can("category", text(60), "what it is filed under, in your words", ""),
    must("unit", text(20), "stock unit by its UN/ECE code or our name, such as LTR or L"),
    can("gtin", gtin, "the number of its bar code, 8 to 14 digits"),
    can("tax", percent, "tax rate in percent", 2000),
    can("reference_cost", price, "cost of one stock unit in home currency"),
    can("account", code, "ledger account of what is not kept in stock"),
    can("by_lot", yes, "yes where lots and their expiry dates are kept", 0),
    can("by_serial", yes, "yes where each piece has a serial number", 0),
    can("by_weight", yes, "yes where it is weighed when it comes, beside the pieces", 0),
    can("shelf_days", whole(1, 7_300), "days for which it keeps"),
    can("least_days", whole(1, 7_300), "of these, days that must be left when it comes"),
    can("weight", quantity, "kilograms of one stock unit, for freight that is spread by weight"),
  ],
  suppliers: [
    must("code", code, "the supplier’s code"),
    must("name", text(120), "the supplier’s name"),
    can("address", text(300), "address", ""),
    must("currency", currency, "a currency"),
    can("terms_days", whole(0, 365), "days net", 30),
    can("lead_days_are", oneOf("calendar", "working"), "calendar or working", "calendar"),
    can("delivers", weekdays, "weekdays on which they deliver", 31),
    can("region", text(10), "region whose public holidays they keep, such as NO or GB-SCT", ""),
    can("cut_off", whole(1, 23), "hour from which an order counts as sent a day later"),
    can("buyer", code, "sign-in name of the buyer who looks after them"),
    can("taxed", yes, "yes, or no where we account for the tax", 1),
    can(
      "contact",
      text(80),
      "who gets the orders; several names in the order of their addresses, separated by `;`",
      "",
    ),
    can("order_mails", mails, "where orders go, separated by spaces", []),
    can("order_minimum", price, "goods that an order must come to at least, in its currency", 0),
    can("freight", price, "freight charged for each order", 0),
    can("freight_free_from", price, "goods from which an order is carried free"),
  ],
  sourcing: [
    must("item", code, "item code"),
    must("supplier", code, "supplier code"),
    can("their_code", text(60), "their code", ""),
    can("their_name", text(120), "their name for it", ""),
    must("unit", text(20), "purchase unit by its UN/ECE code or our name"),
    must("factor", factor, "stock units in one purchase unit"),
    can("minimum", quantityOrZero, "least purchase units on an order", 0),
    can("multiple", quantityOrZero, "multiple of purchase units", 0),
    can("broken_packs", yes, "yes where they sell part of a unit", 0),
    must("lead_days", lead, "days from order to arrival"),
    can("discount", percent, "standing discount in percent", 0),
    can("rank", whole(1, 99), "1 is the preferred supplier", 1),
  ],
  prices: [
    must("item", code, "item code"),
    must("supplier", code, "supplier code"),
    must("from", quantity, "from this many purchase units on"),
    must("price", price, "price of one purchase unit in the supplier’s currency"),
    can("valid_from", day, "first day"),
    can("valid_to", day, "last day"),
  ],
  alternatives: [
    must("item", code, "item code"),
    must("other", code, "code of what may stand in for it"),
    can("both_ways", yes, "yes where each may stand in for the other", 0),
    can("note", text(200), "what to mind", ""),
  ],
  stock: [
    must("item", code, "item code"),
    must("store", code, "store code"),
    must("on_hand", onHand, "what is there now, in stock units"),
    can("bin", text(20), "where it lies", ""),
    can(
      "policy",
      oneOf("top up", "fixed lot", "larger of", "shortfall", "days of cover", "to order"),
      "top up, fixed lot, larger of, shortfall, days of cover or to order",
      "larger of",
    ),
    can("reorder_point", quantityOrZero, "reorder point", 0),
    can("lot", quantityOrZero, "usual lot", 0),
    can("level", quantityOrZero, "level to top up to", 0),
    can("cover_days", whole(0, 730), "days of cover", 0),
    can("maximum", quantityOrZero, "the most the store should hold"),
    can("review_days", whole(0, 365), "days between reviews", 7),
  ],
  jobs: [
    must("job", code, "job code"),
    can("name", text(120), "what the job is", ""),
    can("vessel", text(60), "vessel or customer", ""),
    must("item", code, "item code"),
    must("store", code, "store code"),
    must("due", day, "needed on"),
    must("quantity", quantity, "quantity in stock units"),
    can("issued", quantityOrZero, "of which already issued", 0),
    can("kind", oneOf("job", "customer order"), "job or customer order", "job"),
  ],
  lots: [
    must("item", code, "item code"),
    must("store", code, "store code"),
    must("lot", text(40), "the lot’s code"),
    must("on_hand", onHand, "how much of what is on hand is of this lot"),
    can("bin", text(20), "where it lies", ""),
    can("expires", day, "last day on which it may be used"),
    can("held", text(120), "why it may not be used, if so", ""),
  ],
  usage: [
    must("item", code, "item code"),
    must("store", code, "store code"),
    must("day", day, "the day it was used"),
    must("quantity", quantityOrZero, "used on that day, in stock units; what is on hand stays"),
  ],
  outputs: [
    must("job", code, "job code"),
    must("item", code, "code of what the job gives back to stock"),
    must("store", code, "store code"),
    must("due", day, "when it should be there"),
    must("quantity", quantity, "quantity in stock units"),
    can("given", quantityOrZero, "of which already given back", 0),
  ],
  orders: [
    must("order", text(40), "its number in the system it comes from"),
    must("supplier", code, "supplier code"),
    must("store", code, "store code"),
    must("item", code, "item code"),
    must("quantity", quantity, "purchase units still to come"),
    must("required", day, "the day asked for"),
    can("promised", day, "the day the supplier promised"),
    can("price", price, "price of one purchase unit; empty takes the price list"),
  ],
  needs: [
    must("item", text(60), "our code, a supplier’s code or a GTIN"),
    can("store", code, "store code; empty is your own store"),
    must("quantity", quantity, "how much"),
    can(
      "unit",
      text(20),
      "a unit of the preferred supplier or the stock unit; empty is the stock unit. Another supplier’s only where it means one thing",
      "",
    ),
    can("needed_by", day, "needed by; empty is as soon as it usually comes"),
    can("note", text(200), "a note for the buyer", ""),
  ],
} satisfies Record<FileKind, readonly Column[]>;

type ColumnOf<K extends FileKind> = (typeof COLUMNS)[K][number];
/** What a checked row of this kind of file holds. */
export type RowOf<K extends FileKind> = {
  [C in ColumnOf<K> as C["name"]]: C extends Column<infer T, string> ? T : never;
};
/** The rows of a file of this kind, each without a fault in itself. */
export type RowsOf<K extends FileKind> = readonly CheckedRow<RowOf<K>>[];

/** Cells of an exported file, written so that the same file can be loaded again. */
export const cell = {
  money: (minor: number, currency: string) => moneyText({ minor, currency }),
  quantity: (n: number | null, mark: DecimalMark = ".") => (n === null ? "" : decimalText(n, 4).replace(".", mark)),
  price: (n: number | null, mark: DecimalMark = ".") => (n === null ? "" : decimalText(n, 6).replace(".", mark)),
  percent: (n: number, mark: DecimalMark = ".") => decimalText(n, 2).replace(".", mark),
  yes: (n: number) => (n ? "yes" : "no"),
};
