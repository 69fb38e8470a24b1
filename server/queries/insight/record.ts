import { addDays, type Day, daysBetween, parseDay, toDay, yearBefore } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import {
  type Days,
  daysLate,
  daysToHere,
  inTime,
  movedPromises,
  type Ratio,
  type RecordFigure,
  shareInTime,
} from "../../../core/insight/record";
import { count } from "../../../core/text";
import { type Db, sql } from "../../db/open";
import {
  answeredIn,
  asidesIn,
  type DaySpan,
  firstLoads,
  inSpan,
  invoicesIn,
  type KnownLoads,
  loadsOf,
  pricesOf,
  type RecordLoad,
  receivedIn,
  SAID,
  type SaidRow,
} from "./record-facts";

export interface RecordAsked {
  period: DaySpan;
  /** What it is held against. */
  before: DaySpan;
}

/** The period that an address asks for, a year to today as usual, against as many days before it. */
export function recordAsked(search: URLSearchParams, today: Day): RecordAsked {
  const until = parseDay(search.get("to") ?? "") ?? today;
  const given = parseDay(search.get("from") ?? "");
  const from = given && given <= until ? given : addDays(yearBefore(until), 1);
  return {
    period: { from, until },
    before: { from: addDays(from, -daysBetween(from, until) - 1), until: addDays(from, -1) },
  };
}

/** A paper behind a figure: what it is, where it stands, its day, and what it says to it. */
export interface RecordRow {
  words: string;
  href: string;
  day: Day | null;
  says: string;
  /** Home currency, where it is a matter of money. */
  minor: number | null;
  /** It counts against them. */
  against: boolean;
}

/** A figure over a period. What nothing is known of is null, never a nought. */
export interface RecordFigures {
  promised: Ratio;
  requested: Ratio;
  days: Days | null;
  /** Lines that came whole with their first load. */
  inFull: Ratio;
  moved: { count: number; days: number };
  /** From sent to their first word, over orders that were answered. */
  answered: { count: number; minutes: number };
  /** What was paid for what was bought a year before as well: at prices of then, and now; home currency. */
  price: { earlier: number; paid: number } | null;
  /** Loads of which something was set aside. */
  aside: Ratio;
  held: Ratio;
  /** What came, home currency. */
  received: number;
  loads: number;
}

export interface SupplierRecordPage {
  loads: RecordLoad[];
  now: RecordFigures;
  before: RecordFigures;
  rows: Record<RecordFigure, RecordRow[]>;
  /** Days from order to arrival that planning reckons with now, by how many of their items. */
  planned: { days: number; items: number }[];
  claims: { count: number; home: number };
}

/** What is known of one period, each part read once. */
function factsOf(db: Db, supplier: SupplierId, k: KnownLoads, moved: readonly Moved[], period: DaySpan) {
  return {
    loads: k.loads.filter((l) => inSpan(period, l.day)),
    firsts: firstLoads(k, period),
    moved: moved.filter((m) => inSpan(period, m.at.slice(0, 10))),
    answered: answeredIn(db, supplier, period),
    prices: pricesOf(k, period),
    asides: asidesIn(db, supplier, period),
    invoices: invoicesIn(db, supplier, period),
    received: receivedIn(db, supplier, period),
  };
}
type Moved = ReturnType<typeof movedPromises>[number];
type Facts = ReturnType<typeof factsOf>;

function figuresOf({ loads, firsts, moved, answered, prices, asides, invoices, received }: Facts): RecordFigures {
  const came = new Set([...loads.map((l) => `${l.receipt}/${l.line}`), ...asides.map((a) => `${a.receipt}/${a.line}`)]);
  return {
    promised: shareInTime(loads, "promised"),
    requested: shareInTime(loads, "requested"),
    days: daysToHere(loads),
    inFull: { of: firsts.filter((f) => f.whole).length, all: firsts.length },
    moved: { count: moved.length, days: moved.reduce((a, m) => a + m.days, 0) },
    answered: { count: answered.length, minutes: answered.reduce((a, o) => a + o.minutes, 0) },
    price: prices.length
      ? { earlier: prices.reduce((a, p) => a + p.earlier, 0), paid: prices.reduce((a, p) => a + p.home, 0) }
      : null,
    aside: { of: asides.length, all: came.size },
    held: { of: invoices.filter((v) => v.why !== "").length, all: invoices.length },
    received,
    loads: loads.length,
  };
}

const MOST_ROWS = 60;
const days = (n: number) => (n === 0 ? "to the day" : `${count(Math.abs(n), "day")} ${n > 0 ? "late" : "early"}`);
const receiptHref = (receipt: number) => `/receipts/${receipt}`;

const row = (words: string, href: string, day: Day | null, says: string, against = false): RecordRow => ({
  words,
  href,
  day,
  says,
  minor: null,
  against,
});

/** What counts against them first, the last first, as many as one reads: only those are written out. */
function lastFirst<T>(
  all: readonly T[],
  { day, against }: { day: (t: T) => string; against: (t: T) => boolean },
  rowOf: (t: T) => RecordRow,
): RecordRow[] {
  return all
    .map((of) => ({ of, day: day(of), against: against(of) }))
    .sort((a, b) => Number(b.against) - Number(a.against) || (a.day < b.day ? 1 : a.day > b.day ? -1 : 0))
    .slice(0, MOST_ROWS)
    .map(({ of }) => rowOf(of));
}

/** The rows behind each figure of the period. */
function rowsOf(facts: Facts, said: readonly SaidRow[]): Record<RecordFigure, RecordRow[]> {
  const { loads } = facts;
  const timed = (against: "promised" | "requested") =>
    lastFirst(
      loads.filter((l) => l[against] !== null),
      { day: (l) => l.day, against: (l) => inTime(l, against) === false },
      (l) =>
        row(
          `${l.name}, ${l.number}`,
          receiptHref(l.receipt),
          l.day,
          days(daysLate(l, against)!),
          inTime(l, against) === false,
        ),
    );
  const lineOf = new Map(said.map((s) => [s.line, s]));
  return {
    promised: timed("promised"),
    requested: timed("requested"),
    days: [...loads]
      .sort((a, b) => daysBetween(b.sent, b.day) - daysBetween(a.sent, a.day))
      .slice(0, MOST_ROWS)
      .map((l) =>
        row(`${l.name}, ${l.orderNumber}`, receiptHref(l.receipt), l.day, count(daysBetween(l.sent, l.day), "day")),
      ),
    inFull: lastFirst(facts.firsts, { day: (f) => f.load.day, against: (f) => !f.whole }, ({ load: l, whole }) =>
      row(`${l.name}, ${l.orderNumber}`, receiptHref(l.receipt), l.day, whole ? "whole" : "a part of it", !whole),
    ),
    moved: lastFirst(facts.moved, { day: (m) => m.at.slice(0, 10), against: (m) => m.days > 0 }, (m) => {
      const of = lineOf.get(m.line)!;
      return row(
        `${of.words}, ${of.number}`,
        `/orders/${of.order}`,
        toDay(m.at.slice(0, 10)),
        `${count(Math.abs(m.days), "day")} ${m.days > 0 ? "later" : "sooner"}`,
        m.days > 0,
      );
    }),
    answered: lastFirst(facts.answered, { day: (o) => o.day, against: () => false }, (o) =>
      row(o.number, `/orders/${o.order}`, o.day, count(Math.round(o.minutes / 60), "hour")),
    ),
    price: [...facts.prices]
      .sort((a, b) => b.home - b.earlier - (a.home - a.earlier))
      .slice(0, MOST_ROWS)
      .map((p) => ({
        ...row(p.name, `/items/${p.item}`, null, "than at the prices of then", p.home > p.earlier),
        minor: p.home - p.earlier,
      })),
    aside: lastFirst(facts.asides, { day: (a) => a.day, against: () => true }, (a) =>
      row(
        `${a.name}, ${a.number}`,
        receiptHref(a.receipt),
        a.day,
        a.why === "over" ? "more than may be kept" : a.why,
        true,
      ),
    ),
    held: lastFirst(facts.invoices, { day: (v) => v.day, against: (v) => v.why !== "" }, (v) =>
      row(
        v.number,
        `/settle/${v.id}`,
        v.day,
        v.why === "" ? "matched by itself" : v.why.replaceAll(",", ", "),
        v.why !== "",
      ),
    ),
  };
}

/** How a supplier did over a period, held against the one before, each figure with its rows (domain-goods §15). */
export function readSupplierRecord(db: Db, supplier: SupplierId, { period, before }: RecordAsked): SupplierRecordPage {
  const known = loadsOf(db, supplier, before.from, period.until);
  const said = sql<SaidRow>(db, SAID).all(supplier);
  const moved = movedPromises(said);
  const facts = factsOf(db, supplier, known, moved, period);
  return {
    loads: facts.loads,
    now: figuresOf(facts),
    before: figuresOf(factsOf(db, supplier, known, moved, before)),
    rows: rowsOf(facts, said),
    planned: sql<{ days: number; items: number }>(
      db,
      "SELECT lead_days AS days, count(*) AS items FROM sourcing WHERE supplier = ? GROUP BY lead_days ORDER BY items DESC, days",
    ).all(supplier),
    claims: sql<{ count: number; home: number }>(
      db,
      "SELECT count(*) AS count, coalesce(sum(home), 0) AS home FROM claim WHERE supplier = ? AND state = 'Open'",
    ).get(supplier)!,
  };
}

/** All suppliers of whom something came in a period, side by side. */
export function readSupplierRecords(
  db: Db,
  asked: RecordAsked,
): { supplier: SupplierId; name: string; figures: RecordFigures }[] {
  return sql<{ supplier: SupplierId; name: string }>(
    db,
    `SELECT s.id AS supplier, s.name FROM supplier s WHERE EXISTS (
       SELECT 1 FROM purchase_order o JOIN receipt r ON r.purchase_order = o.id WHERE o.supplier = s.id AND r.day BETWEEN @from AND @until) ORDER BY s.name`,
  )
    .all(asked.period)
    .map((s) => {
      const known = loadsOf(db, s.supplier, asked.period.from, asked.period.until);
      const moved = movedPromises(sql<SaidRow>(db, SAID).all(s.supplier));
      return { ...s, figures: figuresOf(factsOf(db, s.supplier, known, moved, asked.period)) };
    });
}
