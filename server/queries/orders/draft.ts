import type { Day } from "../../../core/calendar/day";
import type { BudgetId, JobId, OrderId, PersonId, StoreId, SupplierId } from "../../../core/ids";
import { decimalText } from "../../../core/numbers/decimal";
import type { Totals } from "../../../core/orders/totals";
import type { Sum } from "../../../core/sums/sum";
import { amount, type Step, words } from "../../../core/sums/sum";
import { type Db, sql } from "../../db/open";
import { type BudgetView, budgetsOfOrder } from "../budgets/budgets";
import { unitChoices } from "../choices";
import { currenciesOf } from "../company";
import { routeOrder } from "../signoff/route";
import { type OrderHead, type OrderLine, orderTotals, readOrderHead, readOrderLines } from "./order";

/** What a draft comes to, as it follows every change: everything but its lines. */
export interface DraftFacts {
  head: OrderHead;
  totals: Totals;
  homeNet: number;
  needed: Needed;
  budgets: BudgetView[];
}
export interface Needed {
  who: string[];
  sum: Sum | null;
  says: string | null;
  /** It was signed before and has hardly grown since, so nobody has to sign again. */
  carries: boolean;
  /** Why it has to be signed again, where it was before. */
  again: string | null;
}

/** Who must sign an order as it stands. */
function neededFor(db: Db, head: OrderHead, totals: Totals, today: Day, budgets: BudgetView[]): Needed {
  if (head.rate === null)
    return { ...NOTHING, says: `No rate for ${head.currency} is known, so nobody can say who must sign.` };
  const { way, growth } = routeOrder(db, head.id, today, budgets);
  const again = growth?.again ? growth.says : null;
  if (!way.ok) return { ...NOTHING, says: way.says };
  return {
    who: way.seats.map((s) => s.name),
    sum: withRate(way.sum, head, totals),
    says: null,
    carries: growth !== null && !growth.again,
    again,
  };
}
const NOTHING = { who: [], sum: null, carries: false, again: null };

/** Where the order is in foreign money, the sum of who signs begins with how it became home money. */
function withRate(sum: Sum, head: OrderHead, totals: Totals): Sum {
  if (head.rate === null || head.rate === 1_000_000) return sum;
  const { minor, currency } = totals.net;
  const steps: Step[] = [
    { op: "", label: "net", figure: amount(minor, currency) },
    {
      op: "×",
      label: `rate of the day, for one ${currency}; each line rounded`,
      figure: words(decimalText(head.rate, 6)),
    },
  ];
  return { ...sum, steps: [...steps, ...sum.steps] };
}

/** What a draft comes to, from its head and lines as they were read. */
export function draftFacts(db: Db, head: OrderHead, lines: readonly OrderLine[], today: Day): DraftFacts {
  const totals = orderTotals(lines, head.discount, head.currency);
  // The sum of a long order names each line; while one types, what it comes to is enough.
  if (lines.length > 60) totals.sum.steps = totals.sum.steps.filter((s) => !/^line \d+$/.test(s.label));
  const budgets = budgetsOfOrder(db, head.id, today);
  return {
    head,
    totals,
    homeNet: head.homeNet,
    needed: neededFor(db, head, totals, today, budgets),
    budgets,
  };
}

/** A draft after a change, as it stands `now` where that was read already: what it comes to, and those of its lines that may read otherwise now. */
export function readDraftPart(
  db: Db,
  order: OrderId,
  lines: readonly number[] | "all",
  today: Day,
  now?: { head: OrderHead; lines: OrderLine[] },
): DraftFacts & { lines: OrderLine[]; sequence: number[] | null } {
  const head = now?.head ?? readOrderHead(db, order)!;
  const all = now?.lines ?? readOrderLines(db, order, head.currency);
  const wanted = lines === "all" ? null : new Set(lines);
  return {
    ...draftFacts(db, head, all, today),
    lines: wanted ? all.filter((l) => wanted.has(l.id)) : all,
    sequence: wanted ? null : all.map((l) => l.id),
  };
}

export interface DraftChoices {
  accounts: { code: string; name: string }[];
  budgets: { id: BudgetId; code: string; name: string }[];
  jobs: { id: JobId; name: string }[];
  contacts: { id: number; name: string; mail: string }[];
  stores: { id: StoreId; name: string }[];
  departments: { id: number; name: string }[];
  buyers: { id: PersonId; name: string }[];
  currencies: string[];
  units: { code: string; name: string }[];
}

/** What may be chosen from on a draft's head and lines. */
export function draftChoices(db: Db, supplier: SupplierId, today: Day): DraftChoices {
  const all = <T>(text: string, ...values: unknown[]) => sql<T>(db, text).all(...values);
  return {
    accounts: all("SELECT code, name FROM account ORDER BY code"),
    budgets: all("SELECT min(id) AS id, code, name FROM budget WHERE ends >= ? GROUP BY code ORDER BY code", today),
    jobs: all(
      "SELECT id, kind || ' ' || code || iif(vessel = '', '', ', ' || vessel) AS name FROM job WHERE closed IS NULL ORDER BY code",
    ),
    contacts: all(
      "SELECT id, name, mail FROM supplier_contact WHERE supplier = ? AND name <> '' ORDER BY name",
      supplier,
    ),
    stores: all("SELECT id, name FROM store ORDER BY id"),
    departments: all("SELECT id, name FROM department WHERE active = 1 ORDER BY name"),
    buyers: all(
      "SELECT DISTINCT p.id, p.name FROM person p JOIN person_role r ON r.person = p.id WHERE r.role IN ('buyer', 'purchasing lead') AND p.active = 1 ORDER BY p.name",
    ),
    currencies: currenciesOf(db),
    units: unitChoices(db),
  };
}
