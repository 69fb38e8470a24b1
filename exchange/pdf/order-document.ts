import type { Day } from "../../core/calendar/day";
import type { StoreId } from "../../core/ids";
import { showDay, showMoney, showPrice, showQuantity } from "../../core/numbers/format";
import type { Limit, OrderKind } from "../../core/orders/kinds";
import {
  type Language,
  type PaperLayout,
  type PaperText,
  type Placeholder,
  paperKind,
  USUAL_LAYOUT,
} from "../../core/orders/papers";
import { deliveryWords, type PayTerms, termsWords } from "../../core/orders/terms";
import type { Totals } from "../../core/orders/totals";
import { localeOf, paperWords, unitWord, usualTexts } from "./paper-words";

/** How a paper looked when it left the house: its language, what its lines show, its letterhead, and the texts on it. */
export interface PaperLook extends PaperLayout, Record<Exclude<PaperText, "subject" | "message">, string> {
  language: Language;
  /** The id of the logo that it bears. */
  logo: number | null;
}

/** A line as it stood in the version before. */
export interface LineBefore {
  quantity: number;
  price: number | null;
  discount: number;
  parts: { quantity: number; required: Day }[];
  /** Where it went, where that was another place than the order's; left out by versions of before this was kept. */
  to?: string | null;
}

/** An order as it leaves the house. It is kept with each version, so that any version can be printed again as it was. */
/** The format of documents that are kept now: 1 had no lines' ids. */
export const ORDER_FORMAT = 2;

export interface OrderDocument {
  number: string | null;
  day: Day;
  /** Countries by ISO 3166-1, where they are known. */
  company: { name: string; address: string; taxNumber: string; mail: string; country?: string };
  supplier: { name: string; address: string; code: string; country?: string };
  contacts: { name: string; mail: string }[];
  deliverTo: { name: string; address: string; country?: string };
  writer: { name: string; title: string; mail: string };
  currency: string;
  locale: string;
  required: Day;
  termsDays: number;
  note: string;
  /** What follows was not on every paper from the beginning: one that was kept without it prints without it. */
  kind?: OrderKind;
  title?: string;
  payment?: string;
  terms?: PayTerms;
  look?: PaperLook;
  delivery?: string;
  incoterm?: string;
  incotermPlace?: string;
  carrier?: string;
  contact?: string | null;
  ourReference?: string;
  theirReference?: string;
  validUntil?: Day | null;
  starts?: Day | null;
  ends?: Day | null;
  /** The blanket orders that it draws from. */
  drawnFrom?: string[];
  texts?: string;
  /** Which version it is, from the second on; the lines that were on the one before and are not on it. */
  version?: number;
  gone?: { position: number; words: string }[];
  lines: {
    position: number;
    /** The line it is of: it is the same over all revisions. Kept from format 2 on. */
    line?: number;
    ours: string | null;
    theirs: string;
    gtin?: string | null;
    words: string;
    quantity: number;
    unit: string;
    /** UN/ECE Recommendation 20; documents kept before it was wanted lack it, as they do the tax rate. */
    unitCode?: string;
    price: number | null;
    discount: number;
    standing: number;
    taxRate?: number;
    required: Day;
    net: number;
    /** Where this line goes instead of where the order does. */
    deliverTo?: { name: string; address: string; country?: string };
    note?: string;
    instalments?: { quantity: number; required: Day }[];
    /** How it stood in the version before, where that was different; null: it is new. */
    before?: LineBefore | null;
    /** Of a blanket order: up to which value, and the least to call off at once. */
    upTo?: number | null;
    least?: number;
  }[];
  discountRate: number;
  linesNet: number;
  discount: number;
  net: number;
  taxes: { rate: number; base: number; tax: number; discount?: number }[];
  taxed: boolean;
  total: number;
}

interface Head {
  number: string | null;
  kind: OrderKind;
  title: string;
  supplierName: string;
  supplierAddress: string;
  supplierCode: string;
  supplierRegion: string;
  storeName: string;
  storeAddress: string;
  store: StoreId;
  deliverName: string;
  deliverAddress: string;
  currency: string;
  required: Day;
  validUntil: Day | null;
  starts: Day | null;
  ends: Day | null;
  terms: PayTerms;
  deliveryTerms: string;
  deliveryPlace: string;
  carrier: string;
  contactName: string | null;
  ourReference: string;
  theirReference: string;
  texts: string;
  note: string;
  discount: number;
  taxed: boolean;
}

interface Line {
  id: number;
  position: number;
  code: string | null;
  theirCode: string;
  gtin: string | null;
  words: string;
  quantity: number;
  unit: string;
  unitCode: string;
  taxRate: number;
  price: number | null;
  discount: number;
  standing: number;
  required: Day;
  net: number;
  note: string;
  store: StoreId;
  instalments: readonly { quantity: number; required: Day }[];
  limits: Limit;
  committedValue: number | null;
  least: number;
  blanket: { name: string } | null;
}

/** Where it goes. Papers that were kept before there were other addresses name the store alone. */
export const placeOf = (d: OrderDocument) => (d.kind === undefined ? `${d.deliverTo.name} store` : d.deliverTo.name);

/** The look of a paper; one that was kept before papers had looks has the usual one, in English. */
export function lookOf(d: OrderDocument): PaperLook {
  if (d.look) return d.look;
  const { above, below, foot } = usualTexts(paperKind(d.kind ?? "one-off"), "en");
  return { ...USUAL_LAYOUT, language: "en", logo: null, above, below, foot };
}

/** Regions are named like NO or GB-SCT: the country stands first. */
const countryOf = (region: string) => region.split("-")[0] ?? "";

/** The limits of a line of a blanket order, in the paper's language. */
export function limitWords(d: OrderDocument, l: OrderDocument["lines"][number]): string[] {
  const look = lookOf(d);
  const words = paperWords(look.language);
  const locale = localeIn(d);
  return [
    l.upTo && look.prices ? words.upTo(`${showMoney(l.upTo, d.currency, locale)} ${d.currency}`) : "",
    l.least ? words.atLeast(`${showQuantity(l.least, locale)} ${unitIn(d, l.unit)}`) : "",
  ].filter(Boolean);
}

/** How a line stood in the version before, in the paper's language; empty where it stood so already. */
export function beforeWords(d: OrderDocument, l: OrderDocument["lines"][number]): string {
  const look = lookOf(d);
  const words = paperWords(look.language);
  const locale = localeIn(d);
  if (l.before === undefined) return "";
  if (l.before === null) return words.isNew;
  const { parts, price } = l.before;
  const so = parts.map(
    (p) =>
      `${showQuantity(p.quantity, locale)} ${unitIn(d, l.unit)} ${words.by} ${showDay(p.required, "0000", locale, false)}`,
  );
  const at =
    look.prices && price !== null && price !== l.price ? `${words.price} ${showPrice(price, d.currency, locale)}` : "";
  const { to } = l.before;
  const went = to === undefined || to === (l.deliverTo?.name ?? null) ? "" : `${words.deliverTo}: ${to ?? placeOf(d)}`;
  return words.before([...so, at, went].filter(Boolean).join(", "));
}

/** A unit in the paper's language. */
export const unitIn = (d: OrderDocument, unit: string): string => unitWord(lookOf(d).language, unit);

/** What the paper is called, in its own language. */
export function paperTitle(d: OrderDocument): string {
  const words = paperWords(lookOf(d).language);
  if (!d.number) return words.draft;
  const title = `${words.titles[paperKind(d.kind ?? "one-off")]} ${d.number}`;
  return d.version ? `${title}, ${words.version(d.version)}` : title;
}

/** Terms of payment in the paper's language. */
export function paymentOf(d: OrderDocument): string {
  const words = paperWords(lookOf(d).language);
  return d.terms ? words.terms(d.terms, localeIn(d)) : (d.payment ?? `${d.termsDays} days net`);
}

/** How the paper writes figures and days. */
export const localeIn = (d: OrderDocument) => localeOf(lookOf(d).language, d.locale);

/** What the placeholders of its texts stand for; `link` is the private link to it, where there is one. */
export function paperValues(d: OrderDocument, link = ""): Record<Placeholder, string> {
  const words = paperWords(lookOf(d).language);
  const locale = localeIn(d);
  const day = (x: string | null | undefined) => (x ? showDay(x, "0000", locale) : "");
  const contact = d.contacts[0]?.name ?? "";
  return {
    number: d.number ?? "",
    title: paperTitle(d),
    supplier: d.supplier.name,
    contact,
    greeting: contact ? words.dear(contact) : words.goodDay,
    lines: words.lineCount(d.lines.length),
    wanted: day(d.required),
    place: placeOf(d),
    starts: day(d.starts),
    ends: day(d.ends),
    total: lookOf(d).prices ? `${showMoney(d.total, d.currency, locale)} ${d.currency}` : "",
    payment: paymentOf(d),
    company: d.company.name,
    writer: d.writer.name,
    function: d.writer.title,
    link,
  };
}

/** Puts the parts of an order together as its paper. */
export function orderDocument(
  company: Required<OrderDocument["company"]> & { locale: string },
  head: Head,
  lines: readonly Line[],
  totals: Totals,
  contacts: OrderDocument["contacts"],
  writer: OrderDocument["writer"],
  day: Day,
  look: PaperLook,
  stores: ReadonlyMap<number, { name: string; address: string; region: string }>,
): OrderDocument {
  return {
    number: head.number,
    day,
    company: {
      name: company.name,
      address: company.address,
      taxNumber: company.taxNumber,
      mail: company.mail,
      country: company.country,
    },
    supplier: {
      name: head.supplierName,
      address: head.supplierAddress,
      code: head.supplierCode,
      country: countryOf(head.supplierRegion),
    },
    contacts: contacts.map(({ name, mail }) => ({ name, mail })),
    deliverTo: head.deliverAddress
      ? { name: head.deliverName, address: head.deliverAddress }
      : {
          name: `${head.storeName} store`,
          address: head.storeAddress,
          country: countryOf(stores.get(head.store)?.region ?? ""),
        },
    writer,
    currency: head.currency,
    locale: company.locale,
    required: head.required,
    termsDays: head.terms.days,
    note: head.note,
    kind: head.kind,
    title: head.title,
    payment: termsWords(head.terms),
    terms: head.terms,
    look,
    delivery: deliveryWords(head.deliveryTerms, head.deliveryPlace),
    incoterm: head.deliveryTerms,
    incotermPlace: head.deliveryPlace,
    carrier: head.carrier,
    contact: head.contactName,
    ourReference: head.ourReference,
    theirReference: head.theirReference,
    validUntil: head.validUntil,
    starts: head.starts,
    ends: head.ends,
    drawnFrom: [...new Set(lines.map((l) => l.blanket?.name).filter((n) => n !== undefined))],
    texts: head.texts,
    lines: lines.map((l) => ({
      position: l.position,
      line: l.id,
      ours: l.code,
      theirs: l.theirCode,
      gtin: l.gtin,
      words: l.words,
      quantity: l.quantity,
      unit: l.unit,
      unitCode: l.unitCode,
      price: l.price,
      discount: l.discount,
      standing: l.standing,
      taxRate: l.taxRate,
      required: l.required,
      net: l.net,
      ...elsewhere(l, head, stores),
      note: l.note,
      instalments: l.instalments.map(({ quantity, required }) => ({ quantity, required })),
      ...(head.kind === "blanket" ? { upTo: l.limits === "quantity" ? null : l.committedValue, least: l.least } : {}),
    })),
    discountRate: head.discount,
    linesNet: totals.lines.minor,
    discount: totals.discount.minor,
    net: totals.net.minor,
    taxes: totals.taxes.map((t) => ({
      rate: t.rate,
      base: t.base.minor,
      tax: t.tax.minor,
      discount: t.discountShare.minor,
    })),
    taxed: head.taxed,
    total: totals.total.minor,
  };
}

/** A line that goes to another store than its order says so, with the address. */
function elsewhere(
  line: Line,
  head: Head,
  stores: ReadonlyMap<number, { name: string; address: string; region: string }>,
): Pick<OrderDocument["lines"][number], "deliverTo"> {
  const store = line.store === head.store ? undefined : stores.get(line.store);
  return store
    ? { deliverTo: { name: `${store.name} store`, address: store.address, country: countryOf(store.region) } }
    : {};
}
