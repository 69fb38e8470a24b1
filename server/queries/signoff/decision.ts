import type { Day } from "../../../core/calendar/day";
import { orderBy } from "../../../core/calendar/delivery";
import type { OrderId, PersonId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exchanged, exponent, lineNet, money, unitPrice } from "../../../core/numbers/money";
import { ONE, purchase } from "../../../core/numbers/quantity";
import { priceFor } from "../../../core/pricing/price";
import { type Difference, differences } from "../../../core/signoff/difference";
import type { Paper } from "../../../core/signoff/papers";
import { passedTogether } from "../../../core/signoff/together";
import type { Sum } from "../../../core/sums/sum";
import { readColumn, SignedLines } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { type BudgetView, budgetsOfOrder, budgetsOfRequisition } from "../budgets/budgets";
import { rateOn, theCompany } from "../company";
import { readAgreementHead, readAgreementItems } from "../consigned/agreement";
import { readSource, readSourcesOf, type Source, wayOf } from "../needs/positions";
import { pricePerStockUnit } from "../needs/slip";
import { inHomeCurrency, readPaid } from "../orders/line-slip";
import { type OrderHead, type OrderLine, readOrderHead, readOrderLines } from "../orders/order";
import { priceRecords } from "../prices";
import { type RequisitionLine, readRequisition } from "../requisitions/requisition";
import { readInvoice } from "../settling/invoices";
import { askedOf } from "../settling/limit";
import { PAPER_TABLE } from "./papers";
import { toSignOf } from "./route";
import { readRulebooks } from "./rulebooks";
import { lastOf, readSignings, type SigningView } from "./signings";

/** One line of a paper, as whoever signs looks at it. */
export interface DecisionLine {
  words: string;
  /** Null for a service. */
  quantity: number | null;
  unit: string;
  /** Home currency, minor units. */
  minor: number;
  /** Jobs and people whom it serves; empty for stock. */
  forWhom: string[];
  required: Day | null;
  /** What was paid last for the same unit, and how much dearer this is, in hundredths of a percent; below zero: cheaper. */
  last: { supplier: string; day: Day; dearer: number } | null;
  /** Where the price was typed: how much dearer than their list. */
  list: { dearer: number } | null;
}

export interface Decision {
  /** The dearest lines, and how many there are besides. */
  lines: DecisionLine[];
  more: number;
  /** The last day on which it may leave, so that all still comes in time, and the lines that are late already. */
  sendBy: Day | null;
  late: number;
  budgets: BudgetView[];
  /** Other orders to the supplier of the last seven days which pass a limit only together with this one. */
  together: {
    limit: number;
    minor: number;
    others: { id: PersonId; number: string; minor: number; state: string }[];
  } | null;
  /** What it was when somebody last signed it or sent it back, and what differs; in its own currency. */
  before: { minor: number; at: string; person: string; what: string; changed: Difference[] } | null;
  currency: string;
  /** The ladder, the rungs and the amount, as they were when it was handed in. */
  why: Sum | null;
  questions: SigningView["questions"];
}

const SHOWN = 5;

/** What an approver needs to decide without opening anything else. Null where there is no such paper. */
export function readDecision(db: Db, paper: Paper, id: number, today: Day, hour: number): Decision | null {
  switch (paper) {
    case "order":
      return decisionOnOrder(db, id as OrderId, today, hour); // as the paper says
    case "agreement":
      return decisionOnAgreement(db, id, today);
    case "invoice":
      return decisionOnInvoice(db, id);
    case "requisition":
      return decisionOnRequisition(db, id, today, hour);
  }
}

/** What of an invoice is beyond what its buyer may accept. */
function decisionOnInvoice(db: Db, id: number): Decision | null {
  const sheet = readInvoice(db, id);
  if (!sheet) return null;
  const { head } = sheet;
  const home = theCompany(db).currency;
  const asked = askedOf(db, sheet);
  return {
    lines: asked.slice(0, SHOWN).map((h) => ({
      words: h.words,
      quantity: null,
      unit: "",
      minor: exchanged(money(h.beyond, head.currency), head.rate, home).minor,
      forWhom: [],
      required: null,
      last: null,
      list: null,
    })),
    more: Math.max(0, asked.length - SHOWN),
    sendBy: null,
    late: 0,
    budgets: [],
    together: null,
    before: beforeThis(db, "invoice", id),
    currency: home,
    ...asHandedIn(db, "invoice", id),
  };
}

/** Each item with the most of it that may lie here, and what that comes to. */
function decisionOnAgreement(db: Db, id: number, today: Day): Decision | null {
  const head = readAgreementHead(db, id);
  if (!head) return null;
  const home = theCompany(db).currency;
  const rate = rateOn(db, head.currency, home, today) ?? 0;
  const rows = readAgreementItems(db, id).map((i) => {
    const dearest = i.prices.reduce((a, p) => Math.max(a, p.price), 0);
    const minor = exchanged(lineNet(i.most, unitPrice(dearest), 0, 0, head.currency), rate, home).minor;
    return { ...i, minor };
  });
  const dearest = rows.toSorted((a, b) => b.minor - a.minor).slice(0, SHOWN);
  return {
    lines: dearest.map((l) => ({
      words: l.name,
      quantity: l.most,
      unit: l.unit,
      minor: l.minor,
      forWhom: [],
      required: head.starts,
      last: null,
      list: null,
    })),
    more: rows.length - dearest.length,
    sendBy: null,
    late: 0,
    budgets: [],
    together: null,
    before: beforeThis(db, "agreement", id),
    currency: head.currency,
    ...asHandedIn(db, "agreement", id),
  };
}

function decisionOnOrder(db: Db, id: OrderId, today: Day, hour: number): Decision | null {
  const head = readOrderHead(db, id);
  if (!head) return null;
  const lines = readOrderLines(db, id, head.currency);
  const { currency: home } = theCompany(db);
  const rate = head.rate ?? rateOn(db, head.currency, home, today) ?? 1_000_000;
  const dearest = lines.toSorted((a, b) => b.net - a.net).slice(0, SHOWN);
  const minor = toSignOf(db, id);
  const days = lines.flatMap((l) => {
    const source = l.sourcing === null ? null : readSource(db, l.sourcing);
    return (source && leavesBy(db, source, l.store, l.required, today, hour)) ?? [];
  });
  return {
    lines: dearest.map((l) => ({
      words: l.words,
      quantity: l.quantity,
      unit: l.unit,
      minor: exchanged(money(l.net, head.currency), rate, home).minor,
      forWhom: [...new Set(l.serves.flatMap((s) => s.jobName ?? s.asker ?? []))],
      required: l.required,
      last: lastPaid(db, head, l, rate),
      list: fromList(db, l, today),
    })),
    more: lines.length - dearest.length,
    sendBy: days.toSorted()[0] ?? null,
    late: days.filter((d) => d < today).length,
    budgets: budgetsOfOrder(db, id, today),
    together: togetherWith(db, head, minor, today),
    before: beforeThis(db, "order", id),
    currency: head.currency,
    ...asHandedIn(db, "order", id),
  };
}

function decisionOnRequisition(db: Db, id: number, today: Day, hour: number): Decision | null {
  const sheet = readRequisition(db, id);
  if (!sheet) return null;
  const { currency } = theCompany(db);
  const rows = sheet.lines.filter((l) => l.declined === null);
  const { head } = sheet;
  const preferred = new Map<number, Source>();
  for (const s of readSourcesOf(
    db,
    rows.flatMap((l) => l.item ?? []),
  ))
    if (!preferred.has(s.item)) preferred.set(s.item, s);
  const days = rows.flatMap((l) => {
    const source = l.item === null ? undefined : preferred.get(l.item);
    return (source && head.neededBy && leavesBy(db, source, head.store, head.neededBy, today, hour)) || [];
  });
  const dearest = rows.toSorted((a, b) => (b.about ?? 0) - (a.about ?? 0)).slice(0, SHOWN);
  return {
    lines: dearest.map((l) => ({
      words: l.words || l.itemName || "",
      quantity: l.quantity,
      unit: l.unit,
      minor: l.about ?? 0,
      forWhom: [],
      required: head.neededBy,
      last: lastPaidFor(db, l, currency),
      list: null,
    })),
    more: rows.length - dearest.length,
    sendBy: days.toSorted()[0] ?? null,
    late: days.filter((d) => d < today).length,
    budgets: budgetsOfRequisition(db, id, today),
    together: null,
    before: beforeThis(db, "requisition", id),
    currency,
    ...asHandedIn(db, "requisition", id),
  };
}

function asHandedIn(db: Db, paper: Paper, id: number): Pick<Decision, "why" | "questions"> {
  const last = lastOf(readSignings(db, paper, id));
  return { why: last?.sum ?? null, questions: last?.questions ?? [] };
}

/** The last day on which it may be ordered and still come on its day; null where nobody can say. */
function leavesBy(db: Db, source: Source, at: number, required: Day, today: Day, hour: number): Day | null {
  const store = sql<{ receives: number; region: string }>(db, "SELECT receives, region FROM store WHERE id = ?").get(
    at,
  )!;
  return orderBy(required, wayOf(source, store, today, hour));
}

const dearer = (now: number, than: number) => roundToInteger(new Big(now).minus(than).times(10_000).div(than));

/** What is estimated for one stock unit, against what was paid for it last. */
function lastPaidFor(db: Db, l: RequisitionLine, home: string): DecisionLine["last"] {
  if (l.item === null || !l.about || !l.quantity) return null;
  const paid = readPaid(db, l.item, 0, 0).find((p) => p.home !== null && p.home > 0);
  if (!paid) return null;
  const now = roundToInteger(
    new Big(l.about)
      .times(ONE)
      .times(new Big(10).pow(6 - exponent(home)))
      .div(l.quantity),
  );
  return { supplier: paid.supplier, day: paid.day, dearer: dearer(now, paid.home!) };
}

function lastPaid(db: Db, head: OrderHead, l: OrderLine, rate: number): DecisionLine["last"] {
  if (l.item === null || l.price === null) return null;
  const paid = readPaid(db, l.item, head.supplier, head.id).find((p) => p.home !== null && p.home > 0);
  if (!paid) return null;
  const now = inHomeCurrency(pricePerStockUnit(l.price, l.factor, l.standing), l.discount, rate);
  return { supplier: paid.supplier, day: paid.day, dearer: dearer(now, paid.home!) };
}

function fromList(db: Db, l: OrderLine, today: Day): DecisionLine["list"] {
  if (l.priceSource.kind !== "typed" || l.sourcing === null || l.price === null) return null;
  const priced = priceFor(priceRecords(db, l.sourcing, today), purchase(l.quantity), today);
  return priced && priced.price > 0 ? { dearer: dearer(l.price, priced.price) } : null;
}

/** Orders there of the last seven days for the same department, which pass a limit of its ladder only together with it. */
function togetherWith(db: Db, head: OrderHead, minor: number, today: Day): Decision["together"] {
  const signing = sql<{ department: number | null; rulebook: number; ladder: string }>(
    db,
    "SELECT json_extract(facts, '$.department') AS department, rulebook, ladder FROM signing WHERE purchase_order = ? ORDER BY round DESC LIMIT 1",
  ).get(head.id);
  if (!signing) return null;
  const others = sql<{ id: number; number: string; minor: number; state: string }>(
    db,
    `SELECT o.id, o.number, o.home_net + o.home_freight AS minor, o.state FROM purchase_order o
     WHERE o.supplier = ? AND o.id <> ? AND o.kind <> 'blanket' AND o.number IS NOT NULL AND o.stage <> 'cancelled'
       AND o.submitted >= date(coalesce(?, ?), '-7 days')
       AND ? IS (SELECT json_extract(g.facts, '$.department') FROM signing g WHERE g.purchase_order = o.id ORDER BY g.round DESC LIMIT 1)
     ORDER BY o.id DESC LIMIT 50`,
  ).all(head.supplier, head.id, head.submitted, today, signing.department);
  const book = readRulebooks(db).find((b) => b.version === signing.rulebook);
  const limits = book?.ladders.find((l) => l.name === signing.ladder)?.rungs.map((r) => r.upTo) ?? [];
  const passed = passedTogether({ id: head.id, minor }, others, limits);
  return passed && { limit: passed.limit, minor: passed.together, others };
}

/** What it was when somebody last signed it or sent it back, where it is otherwise now. */
function beforeThis(db: Db, paper: Paper, id: number): Decision["before"] {
  const [now, ...earlier] = sql<{ id: number; minor: number; lines: string }>(
    db,
    `SELECT id, amount AS minor, lines FROM signing WHERE ${PAPER_TABLE[paper]} = ? ORDER BY round DESC`,
  ).all(id);
  for (const was of earlier) {
    const seen = sql<{ at: string; person: string; what: string }>(
      db,
      `SELECT g.at, p.name AS person, g.what FROM signature g JOIN person p ON p.id = g.person JOIN seat t ON t.id = g.seat
       WHERE t.signing = ? ORDER BY g.id DESC LIMIT 1`,
    ).get(was.id);
    if (!seen) continue;
    const changed = differences(readColumn(SignedLines, was.lines), readColumn(SignedLines, now!.lines));
    return was.minor === now!.minor && changed.length === 0 ? null : { minor: was.minor, ...seen, changed };
  }
  return null;
}
