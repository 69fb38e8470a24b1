import { createHash } from "node:crypto";
import type { Day } from "../../../core/calendar/day";
import type { BenchId, ItemId, QuoteId, SupplierId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import type { UnitPrice } from "../../../core/numbers/money";
import { type Factor, ONE, stock, toPurchase } from "../../../core/numbers/quantity";
import type { Language } from "../../../core/orders/papers";
import { localeOf } from "../../../exchange/pdf/paper-words";
import { quoteWords } from "../../../exchange/pdf/quote-words";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../company";
import { languageTo } from "../papers/templates";

export interface QuoteHead {
  id: QuoteId;
  number: string;
  bench: BenchId | null;
  asker: string;
  askerId: number;
  at: string;
  answerBy: Day;
  note: string;
  version: number;
  ended: string | null;
}

export interface QuoteLine {
  id: number;
  position: number;
  item: ItemId;
  code: string;
  name: string;
  store: string;
  /** Stock units. */
  quantity: number;
  unit: string;
  unitCode: string;
  neededOn: Day;
}

export interface QuoteAsked {
  id: number;
  supplier: SupplierId;
  name: string;
  currency: string;
  opened: string | null;
  answered: string | null;
  declined: boolean;
  conditions: string;
  ended: string | null;
  /** Nobody answered in time. */
  late: boolean;
}

export interface QuoteAnswer {
  id: number;
  asked: number;
  line: number;
  price: UnitPrice;
  unit: string;
  factor: number;
  from: number;
  leadDays: number | null;
  validFrom: Day;
  validTo: Day;
  note: string;
  accepted: string | null;
  acceptedBy: string | null;
  /** Home currency for one stock unit, millionths, at the day's rate; null where no rate is known. */
  perStockUnit: number | null;
}

export interface QuoteSheet {
  head: QuoteHead;
  lines: QuoteLine[];
  asked: QuoteAsked[];
  answers: QuoteAnswer[];
}

const HEAD = `
  SELECT q.id, q.number, q.bench, p.name AS asker, q.person AS askerId, q.at, q.answer_by AS answerBy, q.note, q.version, q.ended
  FROM quote q JOIN person p ON p.id = q.person`;

export const linkHash = (link: string) => createHash("sha256").update(link).digest("hex");

export const readQuoteHead = (db: Db, id: QuoteId) => sql<QuoteHead>(db, `${HEAD} WHERE q.id = ?`).get(id) ?? null;

export const readQuoteLines = (db: Db, quote: QuoteId) =>
  sql<QuoteLine>(
    db,
    `SELECT l.id, l.position, l.item, i.code, i.name, s.name AS store, l.quantity, u.name AS unit, i.unit AS unitCode, l.needed_on AS neededOn
     FROM quote_line l JOIN item i ON i.id = l.item JOIN unit u ON u.code = i.unit JOIN store s ON s.id = l.store
     WHERE l.quote = ? ORDER BY l.position`,
  ).all(quote);

export const readAsked = (db: Db, quote: QuoteId, today: Day): QuoteAsked[] =>
  sql<Omit<QuoteAsked, "declined" | "late"> & { declined: number; answerBy: Day }>(
    db,
    `SELECT a.id, a.supplier, s.name, a.currency, a.opened, a.answered, a.declined, a.conditions, a.ended, q.answer_by AS answerBy
     FROM quote_asked a JOIN supplier s ON s.id = a.supplier JOIN quote q ON q.id = a.quote WHERE a.quote = ? ORDER BY a.answered IS NULL, a.declined, s.name`,
  )
    .all(quote)
    .map(({ declined, answerBy, ...a }) => ({
      ...a,
      declined: declined === 1,
      late: a.answered === null && a.ended === null && answerBy < today,
    }));

/** A quote with every answer side by side. Null where there is none. */
export function readQuote(db: Db, id: QuoteId, today: Day): QuoteSheet | null {
  const head = readQuoteHead(db, id);
  if (!head) return null;
  const home = theCompany(db).currency;
  const asked = readAsked(db, id, today);
  const currencyOf = new Map(asked.map((a) => [a.id, a.currency]));
  const answers = sql<Omit<QuoteAnswer, "perStockUnit">>(
    db,
    `SELECT n.id, n.asked, n.line, n.price, u.name AS unit, n.factor, n.from_quantity AS "from", n.lead_days AS leadDays,
            n.valid_from AS validFrom, n.valid_to AS validTo, n.note, n.accepted, p.name AS acceptedBy
     FROM quote_answer n JOIN quote_asked a ON a.id = n.asked JOIN unit u ON u.code = n.unit LEFT JOIN person p ON p.id = n.accepted_by
     WHERE a.quote = ? ORDER BY n.id`,
  ).all(id);
  return {
    head,
    lines: readQuoteLines(db, id),
    asked,
    answers: answers.map((a) => ({
      ...a,
      perStockUnit: quotedPerStockUnit(a.price, a.factor, rateOn(db, currencyOf.get(a.asked)!, home, today)),
    })),
  };
}

/** A price per unit as home currency for one stock unit, to the hundredth of a cent. */
export function quotedPerStockUnit(price: number, factor: number, rate: number | null): number | null {
  if (rate === null) return null;
  const exact = new Big(price).times(rate).div(1_000_000).times(ONE).div(factor);
  return roundToInteger(exact.div(100)) * 100;
}

export interface QuoteRow extends QuoteHead {
  lines: number;
  asked: number;
  answered: number;
  accepted: number;
  suppliers: string;
  /** Suppliers who should have answered by now. */
  late: number;
}

/** Quotes asked for, those still waited for first. */
export const readQuotesAsked = (db: Db, today: Day): QuoteRow[] =>
  sql<QuoteRow>(
    db,
    `${HEAD.replace(
      "FROM quote q",
      `, (SELECT count(*) FROM quote_line l WHERE l.quote = q.id) AS lines,
         (SELECT count(*) FROM quote_asked a WHERE a.quote = q.id) AS asked,
         (SELECT count(*) FROM quote_asked a WHERE a.quote = q.id AND a.answered IS NOT NULL) AS answered,
         (SELECT count(*) FROM quote_answer n JOIN quote_asked a ON a.id = n.asked WHERE a.quote = q.id AND n.accepted IS NOT NULL) AS accepted,
         (SELECT group_concat(s.name, ', ') FROM quote_asked a JOIN supplier s ON s.id = a.supplier WHERE a.quote = q.id) AS suppliers,
         (SELECT count(*) FROM quote_asked a WHERE a.quote = q.id AND a.answered IS NULL AND a.ended IS NULL AND q.answer_by < @today) AS late
       FROM quote q`,
    )} WHERE q.ended IS NULL OR q.at > date(@today, '-60 days') ORDER BY q.ended IS NOT NULL, q.id DESC LIMIT 500`,
  ).all({ today });

/** How a supplier sells an item: in which unit, how many stock units one holds, under which code. */
export interface SoldUnit {
  unit: string;
  unitCode: string;
  factor: Factor;
  theirCode: string;
}

/** What a supplier sells, by item. */
export const unitSoldBy = (db: Db, supplier: SupplierId): ReadonlyMap<number, SoldUnit> =>
  new Map(
    sql<SoldUnit & { item: ItemId }>(
      db,
      `SELECT c.item, u.name AS unit, c.unit AS unitCode, c.factor, c.their_code AS theirCode
       FROM sourcing c JOIN unit u ON u.code = c.unit WHERE c.supplier = ? AND c.active = 1`,
    )
      .all(supplier)
      .map(({ item, ...sold }) => [item, sold]),
  );

/** What a price is asked for: the supplier's own unit, or the stock unit where they never sold it to us. */
export function askedIn(
  stockUnits: number,
  unit: string,
  sold: SoldUnit | undefined,
): { quantity: number; unit: string } {
  return sold
    ? { quantity: toPurchase(stock(stockUnits), sold.factor), unit: sold.unit }
    : { quantity: stockUnits, unit };
}

/** What a private link opens; null where there is no such link. */
export interface Invitation {
  asked: QuoteAsked;
  head: QuoteHead;
  company: string;
  /** In which they are written to, and how figures are written in it. */
  language: Language;
  locale: string;
  lines: (QuoteLine & {
    /** As this supplier sells it; null where we never bought it there. */
    sold: SoldUnit | null;
    /** How much is asked for, in the unit in which it is answered. */
    ask: { quantity: number; unit: string };
  })[];
  answers: QuoteAnswer[];
}

export function readInvitation(db: Db, link: string, today: Day): Invitation | null {
  const found = sql<{ id: number; quote: QuoteId }>(
    db,
    "SELECT id, quote FROM quote_asked WHERE link = @link OR id = (SELECT asked FROM quote_link WHERE link = @link)",
  ).get({ link: linkHash(link) });
  const sheet = found && readQuote(db, found.quote, today);
  if (!sheet) return null;
  const asked = sheet.asked.find((a) => a.id === found.id)!;
  const sold = unitSoldBy(db, asked.supplier);
  const company = theCompany(db);
  const language = languageTo(db, asked.supplier);
  return {
    asked,
    head: sheet.head,
    company: company.name,
    language,
    locale: localeOf(language, company.locale),
    lines: sheet.lines.map((l) => ({
      ...l,
      sold: sold.get(l.item) ?? null,
      ask: askedIn(l.quantity, l.unit, sold.get(l.item)),
    })),
    answers: sheet.answers.filter((a) => a.asked === asked.id),
  };
}

/** Why an invitation takes no answer any more, in the supplier's words; null while it does, the first time or again. */
export function closedSays({
  asked,
  head,
  answers,
  language,
}: Pick<Invitation, "asked" | "head" | "answers" | "language">): string | null {
  const { page } = quoteWords(language);
  if (asked.ended || head.ended) return page.ended;
  return answers.some((a) => a.accepted) ? page.used(head.asker) : null;
}
