import { z } from "zod";
import { addDays, type Day, daysBetween, parseDay, yearBefore } from "../../../core/calendar/day";
import {
  type BoughtOf,
  NO_STEPS,
  NOTHING,
  plusSteps,
  type SpendSteps,
  spendSteps,
  WHY_BY,
  type WhyBy,
} from "../../../core/insight/why";
import { type Db, sql } from "../../db/open";
import { valueNames } from "./breakdown";

export interface WhyAsked {
  by: WhyBy;
  /** Both included, as are those of before. */
  from: Day;
  until: Day;
  before: { from: Day; until: Day };
}

/** One group with what it came to before and after, home currency, and why. */
export interface WhyRow {
  key: string;
  label: string;
  before: number;
  after: number;
  steps: SpendSteps;
}
export interface Why {
  rows: WhyRow[];
  before: number;
  after: number;
  steps: SpendSteps;
}

interface Row {
  group: string;
  thing: string;
  currency: string;
  /** More than one: their amounts are no one currency's. */
  currencies: number;
  quantity: number;
  foreign: number;
  home: number;
}

const KEYS: Record<WhyBy, string> = { category: "i.category", supplier: "o.supplier", item: "l.item" };

/** What came in some days, thing by thing: an item, or what was bought under the same words; what was undone is taken off. */
const boughtIn = (db: Db, by: WhyBy, days: { from: Day; until: Day }): Row[] =>
  sql<Row>(
    db,
    `SELECT coalesce(CAST(${KEYS[by]} AS TEXT), '') AS "group", coalesce('item ' || l.item, 'words ' || l.words) AS thing,
            min(o.currency) AS currency, count(DISTINCT o.currency) AS currencies,
            sum(x.stock_quantity - coalesce(u.stock_quantity, 0)) AS quantity, sum(x.value - coalesce(u.value, 0)) AS "foreign", sum(x.home_value - coalesce(u.home_value, 0)) AS home
     FROM receipt r JOIN receipt_line x ON x.receipt = r.id JOIN order_line l ON l.id = x.order_line JOIN purchase_order o ON o.id = l.purchase_order
     LEFT JOIN item i ON i.id = l.item
     LEFT JOIN (SELECT receipt_line, sum(stock_quantity) AS stock_quantity, sum(value) AS value, sum(home_value) AS home_value FROM receipt_undo_line GROUP BY receipt_line) u ON u.receipt_line = x.id
     WHERE r.day BETWEEN @from AND @until GROUP BY 1, 2`,
  ).all(days);

/**
 * Why what was received came to more, or less, than in the days before: each thing taken apart on its own, within its
 * group, and the steps added up (domain-goods §16). A thing that was bought in one currency in both periods has its rate
 * apart; in several, all of it is at home.
 */
export function readWhy(db: Db, { by, from, until, before }: WhyAsked): Why {
  const pairs = new Map<string, { group: string; was?: Row; is?: Row }>();
  const keep = (rows: readonly Row[], as: "was" | "is") => {
    for (const r of rows) {
      const key = `${r.group}\n${r.thing}`;
      pairs.set(key, { ...pairs.get(key), group: r.group, [as]: r });
    }
  };
  keep(boughtIn(db, by, before), "was");
  keep(boughtIn(db, by, { from, until }), "is");
  const groups = new Map<string, Omit<WhyRow, "label">>();
  for (const { group, was, is } of pairs.values()) {
    const known = groups.get(group) ?? { key: group, before: 0, after: 0, steps: NO_STEPS };
    const apart = was && is && was.currencies === 1 && is.currencies === 1 && was.currency === is.currency;
    const of = (r: Row | undefined): BoughtOf => (r ? { ...r, foreign: apart ? r.foreign : r.home } : NOTHING);
    groups.set(group, {
      key: group,
      before: known.before + (was?.home ?? 0),
      after: known.after + (is?.home ?? 0),
      steps: plusSteps(known.steps, spendSteps(of(was), of(is))),
    });
  }
  const called = valueNames(db, by, [...groups.keys()]);
  const rows = [...groups.values()]
    .map((g) => ({ ...g, label: called(g.key) }))
    .sort((a, b) => Math.abs(b.after - b.before) - Math.abs(a.after - a.before) || a.label.localeCompare(b.label));
  return {
    rows,
    before: rows.reduce((a, r) => a + r.before, 0),
    after: rows.reduce((a, r) => a + r.after, 0),
    steps: rows.reduce((a, r) => plusSteps(a, r.steps), NO_STEPS),
  };
}

const Asked = z.object({
  by: z.enum(WHY_BY).catch("category"),
  from: z.string().nullable().catch(null),
  to: z.string().nullable().catch(null),
  than: z.string().nullable().catch(null),
});
const USUAL_DAYS = 182;

/** What an address asks for; as usual the last 182 days against as many before them. `than` is the first day of those before. */
export function whyOf(search: URLSearchParams, today: Day): WhyAsked {
  const asked = Asked.parse(Object.fromEntries(["by", "from", "to", "than"].map((n) => [n, search.get(n)])));
  const until = parseDay(asked.to ?? "") ?? today;
  const given = parseDay(asked.from ?? "");
  const from = given && given <= until ? given : addDays(until, 1 - USUAL_DAYS);
  const long = daysBetween(from, until);
  const than = parseDay(asked.than ?? "") ?? addDays(from, -long - 1);
  return { by: asked.by, from, until, before: { from: than, until: addDays(than, long) } };
}

/** The first day of the same days a year before. */
export const aYearBefore = ({ from }: WhyAsked): Day => yearBefore(from);
