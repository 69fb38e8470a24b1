import { addDays, type Day, daysBetween, toDay } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { showDay, showQuantity } from "../../../core/numbers/format";
import { may } from "../../../core/people/roles";
import { paperHref, paperName, WAITING_WORDS } from "../../../core/signoff/papers";
import { count, inOrder, unitWords } from "../../../core/text";
import { type Ranked, rank, type Waiting } from "../../../core/today/waiting";
import type { Person } from "../../acts/desk";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { type Need, type PlanFor, readNeeds, usualPlan } from "../needs/needs";
import { readDrafts, readWithSuppliers } from "../orders/lists";
import { readBenches } from "../placing/bench";
import { readQuotesAsked } from "../quotes/quotes";
import { type Load, readComingIn } from "../receiving/dock";
import { asidesByOrder } from "../receiving/set-aside";
import { remember } from "../remember";
import { readRequisitions } from "../requisitions/requisition";
import { readWaitingSignatures } from "../signoff/waiting";
import { readTransfers } from "../stock/transfers";
import { ordersAnswered } from "../suppliers/answers";
import { consignedWaits } from "./consigned-waits";
import { heldFor, settleWaits } from "./settle-waits";
import { stockWaits } from "./stock-waits";

export interface Notice {
  id: number;
  at: string;
  text: string;
  detail: string;
  href: string;
}

export interface Today {
  forYou: Ranked[];
  withOthers: Ranked[];
  notices: Notice[];
  /** What should come to the person's dock in the next five days. */
  coming: Load[];
  /** Committed spend in home currency by the week in which it is due; twelve weeks from this one. */
  weeks: { week: Day; minor: number }[];
}

/** What waits for a person in all their roles, ranked by what waiting costs, and what others hold meanwhile. */
export function readToday(db: Db, person: Person, today: Day, hour = 0): Today {
  return remember(db, `today/${person.id}/${today}/${hour}`, () => gather(db, person, today, hour));
}

function gather(db: Db, person: Person, today: Day, hour: number): Today {
  const { roles } = person;
  const forYou: Waiting[] = [];
  const withOthers: Waiting[] = [];
  if (may(roles, "plan")) buyerWaits(db, usualPlan(today, hour), forYou, withOthers);
  signatureWaits(db, person, today, forYou, withOthers);
  if (may(roles, "count in")) {
    dockWaits(db, person, today, forYou);
    transferWaits(db, person, today, forYou);
  }
  if (may(roles, "see shelves")) stockWaits(db, person, today, forYou);
  if (may(roles, "see consigned")) consignedWaits(db, person, today, forYou, withOthers);
  settleWaits(db, person, today, forYou, withOthers);
  if (may(roles, "ask")) askerWaits(db, person, today, forYou, withOthers);
  return {
    forYou: rank(forYou, today),
    withOthers: rank(withOthers, today),
    notices: readNotices(db, person.id),
    coming: may(roles, "see dock") ? readComingIn(db, may(roles, "count in") ? person.store : null) : [],
    weeks: may(roles, "see orders") ? committedByWeek(db, today) : [],
  };
}

/** How many things wait for a person at each stop of the rail; kept until something changes. */
export function railCounts(
  db: Db,
  person: Person,
  today: Day,
  hour = 0,
): Record<string, { count: number; late: boolean }> {
  return remember(db, `rail/${person.id}/${today}/${hour}`, () => {
    const { roles } = person;
    const { forYou } = readToday(db, person, today, hour);
    const counts: Record<string, { count: number; late: boolean }> = {
      Today: { count: forYou.length, late: forYou.some((w) => w.daysLate > 0) },
    };
    if (may(roles, "see needs")) counts.Needs = { count: readNeeds(db, usualPlan(today, hour)).length, late: false };
    else if (may(roles, "ask")) counts.Needs = { count: openOf(db, person.id), late: false };
    if (may(roles, "see benches"))
      counts.Bench = { count: readDrafts(db, today).length + readBenches(db).length, late: false };
    if (may(roles, "see sign-offs")) {
      const waiting = readWaitingSignatures(db, person.id, today);
      // A buyer looks at what waits for others, until something waits for them.
      const own = waiting.filter((w) => w.mine);
      const mine = own.length || roles.includes("approver") ? own : waiting;
      counts["Sign-off"] = { count: mine.length, late: mine.some((w) => w.due.slice(0, 10) < today) };
    }
    if (may(roles, "see orders")) {
      const orders = readWithSuppliers(db, today);
      counts["With suppliers"] = { count: orders.length, late: orders.some((o) => o.linesLate > 0) };
    }
    if (may(roles, "see invoices")) counts.Settle = { count: heldFor(db, person).length, late: false };
    if (may(roles, "see dock")) {
      const loads = readComingIn(db, may(roles, "count in") ? person.store : null);
      counts.Dock = { count: loads.filter((l) => l.due <= today).length, late: loads.some((l) => l.due < today) };
    }
    return counts;
  });
}

const openOf = (db: Db, asker: number) =>
  sql<{ n: number }>(
    db,
    "SELECT count(*) AS n FROM requisition WHERE asker = ? AND state IN ('Draft', 'In sign-off', 'Open', 'Part ordered')",
  ).get(asker)!.n;

const readNotices = (db: Db, person: PersonId) =>
  sql<Notice>(
    db,
    "SELECT id, at, text, detail, href FROM notice WHERE person = ? AND read IS NULL ORDER BY id DESC LIMIT 50",
  ).all(person);

/** So many needs stand on Today one by one. */
const MOST_NEEDS = 100;

function buyerWaits(db: Db, plan: PlanFor, forYou: Waiting[], withOthers: Waiting[]): void {
  const { today } = plan;
  const { urgent, more } = urgentNeeds(readNeeds(db, plan), today);
  forYou.push(...urgent.map((n) => needWaits(n, today)));
  if (more > 0) {
    forYou.push({
      key: "more needs",
      cost: "it must be sent today",
      by: today,
      title: `${count(more, "more need")} to order`,
      detail: "the most urgent stand here one by one",
      ifItStays: "stock falls below its reorder points",
      doing: "look",
      stop: "Needs",
      href: "/needs?late=due",
    });
  }
  const { unknown } = sql<{ unknown: number }>(
    db,
    "SELECT count(*) AS unknown FROM noted_need WHERE item IS NULL AND dropped IS NULL",
  ).get()!;
  if (unknown > 0) {
    forYou.push({
      key: "unknown codes",
      cost: "a colleague waits",
      by: null,
      title: `${count(unknown, "code")} from the floor to sort out`,
      detail: "scanned on a round, and known to nobody",
      ifItStays: "it is not ordered",
      doing: "sort out",
      stop: "Needs",
      href: "/needs/sort-out",
    });
  }
  for (const q of readQuotesAsked(db, today)) {
    if (q.late === 0 || q.ended) continue;
    forYou.push({
      key: `quote/${q.id}`,
      cost: "a price could be better",
      by: q.answerBy,
      title: `${q.number}: ${count(q.late, "supplier")} did not answer`,
      detail: `${count(q.lines, "line")} asked for by ${q.asker}, to ${q.suppliers}`,
      ifItStays: "nobody knows their price",
      doing: "ask again, or end it",
      stop: "Bench",
      href: `/quotes/${q.id}`,
    });
  }
  for (const o of readDrafts(db, today)) {
    forYou.push({
      key: `draft/${o.id}`,
      cost: o.sentBack ? "a colleague waits" : "an order stands still",
      by: null,
      title: `${o.name}, ${o.supplierName}`,
      detail: o.sentBack
        ? `sent back: ${o.sentBack}`
        : `${o.lines} ${o.lines === 1 ? "line" : "lines"}, still being written by ${o.writerName}`,
      ifItStays: "nothing is ordered",
      figure: { minor: o.net, currency: o.currency },
      stop: "Bench",
      href: `/orders/${o.id}`,
    });
  }
  for (const a of ordersAnswered(db)) {
    forYou.push({
      key: `answer/${a.order}`,
      cost: "an order stands still",
      by: a.required,
      title: `${a.supplier} answered ${a.number}`,
      detail: `${count(a.lines, "line")} not as ordered`,
      ifItStays: "they do not know whether we agree",
      doing: "take or refuse",
      stop: "With suppliers",
      href: `/answers?order=${a.order}`,
    });
  }
  for (const a of asidesByOrder(db)) {
    forYou.push({
      key: `aside/${a.order}`,
      cost: "an order stands still",
      by: a.since,
      title: `${a.supplier}, ${a.number}: goods set aside`,
      detail: `${count(a.rows, "line")} counted and not taken in`,
      ifItStays: "they lie on the dock, and are nobody’s",
      doing: "keep or send back",
      stop: "With suppliers",
      href: `/set-aside?at=${a.first}`,
    });
  }
  for (const o of readWithSuppliers(db, today)) {
    if (o.state === "Cleared") {
      forYou.push({
        key: `place/${o.id}`,
        cost: "it must be sent today",
        by: today,
        title: `Order ${o.name} is cleared`,
        detail: `${o.supplierName} does not know of it yet`,
        ifItStays: `arrives after ${showDay(o.required, today)}`,
        figure: { minor: o.net, currency: o.currency },
        stop: "With suppliers",
        href: `/orders/${o.id}`,
      });
    } else if (o.linesLate > 0 && o.nextDue) {
      forYou.push({
        key: `overdue/${o.id}`,
        cost: "somebody waits for goods",
        by: o.nextDue,
        title: `${o.supplierName} is late with ${o.name}`,
        detail: `${o.linesLate} of ${o.lines} lines overdue at ${o.storeName}`,
        ifItStays: "nobody has asked them",
        doing: "ask for a date",
        stop: "With suppliers",
        href: `/orders/${o.id}`,
      });
    } else if (o.nextDue && daysBetween(today, o.nextDue) <= 5) {
      withOthers.push({
        key: `coming/${o.id}`,
        cost: "something to know",
        by: o.nextDue,
        title: `Order ${o.name}, ${o.supplierName}`,
        detail: `should come to ${o.storeName} on ${showDay(o.nextDue, today)}`,
        ifItStays: "the dock counts it in",
        figure: { minor: o.net, currency: o.currency },
        stop: "Dock",
        href: `/orders/${o.id}`,
      });
    }
  }
}

const ranked = new WeakMap<readonly Need[], { urgent: Need[]; more: number }>();

/**
 * Needs whose day to order is near; what can wait a week is not today's. The most urgent stand one by one, told apart by
 * plain comparisons: a large company has tens of thousands. Kept until the plan changes.
 */
function urgentNeeds(needs: readonly Need[], today: Day): { urgent: Need[]; more: number } {
  let known = ranked.get(needs);
  if (!known) {
    const near = addDays(today, 3);
    const weight = (n: Need) =>
      n.missesBy > 0 ? (n.forJob ? 0 : n.source === "requisition" ? 1 : 2) : n.supplier ? 3 : 4;
    const due = needs
      .filter((n) => n.orderBy === null || n.orderBy <= near)
      .sort((a, b) => weight(a) - weight(b) || b.missesBy - a.missesBy || inOrder(a.orderBy ?? "9", b.orderBy ?? "9"));
    known = { urgent: due.slice(0, MOST_NEEDS), more: Math.max(0, due.length - MOST_NEEDS) };
    ranked.set(needs, known);
  }
  return known;
}

function needWaits(n: Need, today: Day): Waiting {
  const quantity = `${showQuantity(n.buy)} ${unitWords(n.buy, n.unit)}`;
  const base = { key: n.key, stop: "Needs", href: `/needs?at=${encodeURIComponent(n.key)}`, figure: amountOf(n) };
  if (!n.supplier) {
    return {
      ...base,
      cost: "a colleague waits",
      by: n.neededOn,
      title: `${n.name} has no supplier`,
      detail: `${quantity} for ${n.storeName}`,
      ifItStays: "it cannot be ordered",
      doing: "choose one",
    };
  }
  if (n.source === "requisition") {
    return {
      ...base,
      cost: n.missesBy > 0 ? "somebody waits for goods" : "it must be sent today",
      by: dayOf(n, today),
      title: `${n.name} for ${n.requisition!.asker}`,
      detail: `${quantity}, needed ${showDay(n.neededOn, today)}`,
      ifItStays: n.missesBy > 0 ? `comes ${count(n.missesBy, "day")} too late` : "will come too late",
    };
  }
  if (n.forJob && n.missesBy > 0) {
    return {
      ...base,
      cost: "a vessel waits",
      by: dayOf(n, today),
      title: `${n.name} for ${n.forJob.split(", ")[1] ?? n.forJob}`,
      detail: `${n.forJob.split(", ")[0]} runs short ${showDay(n.runsOut ?? n.neededOn, today)}, ${showQuantity(n.stock?.onHand ?? 0)} on hand`,
      ifItStays: `the ${n.forJob.startsWith("customer") ? "customer" : "vessel"} waits ${count(n.missesBy, "day")}`,
    };
  }
  return {
    ...base,
    cost: n.missesBy > 0 ? "stock runs out" : "it must be sent today",
    by: dayOf(n, today),
    title: `${n.name} must be ordered`,
    detail: `${quantity} for ${n.storeName}${n.arrives ? `, would be here ${showDay(n.arrives, today)}` : ""}`,
    ifItStays:
      n.missesBy > 0
        ? `none left for ${count(n.missesBy, "day")}`
        : n.lateBy > 0
          ? "stays below its reorder point"
          : "falls below its reorder point",
  };
}

/** Stock below its reorder point is to be ordered today; it is late only once somebody goes without. */
const dayOf = (n: Need, today: Day): Day | null =>
  n.orderBy && n.orderBy < today && n.missesBy === 0 ? today : n.missesBy > 0 ? addDays(today, -n.missesBy) : n.orderBy;

const amountOf = (n: Need) =>
  n.amount !== null && n.supplier ? { minor: n.amount, currency: n.supplier.currency } : undefined;

function signatureWaits(db: Db, person: Person, today: Day, forYou: Waiting[], withOthers: Waiting[]): void {
  const sees = may(person.roles, "see sign-offs");
  const { currency } = theCompany(db);
  for (const w of readWaitingSignatures(db, person.id, today)) {
    const entry: Waiting = {
      key: `sign/${w.id}`,
      cost: "a colleague waits",
      by: toDay(w.due.slice(0, 10)),
      title: `${paperName(w.paper, w.number)}, ${w.about}`,
      detail: w.mine
        ? `from ${w.writerName}, ${w.lines} ${w.lines === 1 ? "line" : "lines"}`
        : `with ${w.called} since ${showDay(w.asked, today)}`,
      ifItStays: WAITING_WORDS[w.paper].ifItStays,
      figure: { minor: w.amount, currency },
      stop: "Sign-off",
      href: paperHref(w.paper, w.paperId),
    };
    if (w.mine && may(person.roles, "sign")) forYou.push(entry);
    else if (sees || w.writer === person.id) withOthers.push(entry);
  }
}

function dockWaits(db: Db, person: Person, today: Day, forYou: Waiting[]): void {
  for (const l of readComingIn(db, person.store)) {
    if (l.due > today) continue;
    forYou.push({
      key: `load/${l.order}/${l.store}`,
      cost: "somebody waits for goods",
      by: l.due,
      title: `${l.supplierName}, ${l.number}`,
      detail: `${l.what} for ${l.storeName}${l.partIn ? ", the rest" : ""}`,
      ifItStays: l.due < today ? "should have come" : "stands on the dock",
      doing: "count in",
      stop: "Dock",
      href: `/dock/${l.order}${person.store === null ? `?store=${l.store}` : ""}`,
    });
  }
}

/** Goods that a dock hand's store is to send to another. */
function transferWaits(db: Db, person: Person, today: Day, forYou: Waiting[]): void {
  for (const t of readTransfers(db)) {
    if (t.state !== "Planned" || (person.store !== null && t.from !== person.store)) continue;
    forYou.push({
      key: `transfer/${t.id}`,
      cost: "somebody waits for goods",
      by: t.day,
      title: `${t.what} to ${t.toName}`,
      detail: `transfer ${t.number} from ${t.fromName}, planned by ${t.planner}`,
      ifItStays: t.day < today ? "should have gone" : `to be there ${showDay(t.day, today)}`,
      doing: "move it",
      stop: "Dock",
      href: `/transfers/${t.id}`,
    });
  }
}

function askerWaits(db: Db, person: Person, today: Day, forYou: Waiting[], withOthers: Waiting[]): void {
  for (const r of readRequisitions(db, person.id)) {
    const base = {
      key: `asked/${r.id}`,
      title: `${r.name}${r.reason ? `, ${r.reason}` : ""}`,
      href: `/requisitions/${r.id}`,
      stop: "Needs",
    };
    if (r.state === "Draft") {
      forYou.push({
        ...base,
        cost: r.sentBack ? "a colleague waits" : "something to know",
        by: r.neededBy,
        detail: r.sentBack ? `sent back: ${r.sentBack}` : "not handed in yet",
        ifItStays: "nobody orders it",
        doing: "finish it",
      });
    } else if (r.state === "Open" || r.state === "Part ordered" || r.state === "Ordered") {
      withOthers.push({
        ...base,
        cost: "something to know",
        by: r.neededBy,
        detail: r.state === "Ordered" ? "ordered, not here yet" : `${r.ordered} of ${r.lines} lines ordered`,
        ifItStays: r.neededBy ? `needed ${showDay(r.neededBy, today)}` : "",
      });
    }
  }
}

function committedByWeek(db: Db, today: Day): Today["weeks"] {
  const rows = sql<{ week: Day; minor: number }>(
    db,
    `WITH RECURSIVE weeks (n, week) AS (
       SELECT 0, date(?, 'weekday 0', '-6 days') UNION ALL SELECT n + 1, date(week, '+7 days') FROM weeks WHERE n < 11)
     SELECT w.week, coalesce((SELECT sum(o.home_net) FROM purchase_order o
       WHERE o.kind <> 'blanket' AND o.stage IN ('cleared', 'placed') AND o.required >= w.week AND o.required < date(w.week, '+7 days')), 0) AS minor
     FROM weeks w ORDER BY w.week`,
  ).all(today);
  return rows;
}
