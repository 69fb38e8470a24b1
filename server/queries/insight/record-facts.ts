import { type Day, yearBefore } from "../../../core/calendar/day";
import type { OrderLineId, SupplierId } from "../../../core/ids";
import type { MetLoad, PromiseSaid } from "../../../core/insight/record";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import type { AsideReason } from "../../../core/receiving/set-aside";
import { type Db, sql } from "../../db/open";
import { tolerancesOfLines } from "../receiving/tolerances";
import { type MetReceipt, metReceipts } from "../suppliers/met-receipts";

/** Days, both included. */
export interface DaySpan {
  from: Day;
  until: Day;
}
/** A load as the record shows it. */
export interface RecordLoad
  extends MetLoad,
    Pick<MetReceipt, "line" | "name" | "order" | "orderNumber" | "receipt" | "number"> {}

export const inSpan = ({ from, until }: DaySpan, day: string) => from <= day && day <= until;

/** All that is known of a supplier over two periods, read once. */
export interface KnownLoads {
  /** All that came up to the end of the period. */
  all: readonly MetReceipt[];
  loads: RecordLoad[];
  /** All loads up to the end of the period, for what was the first of its line. */
  ordered: ReadonlyMap<number, number>;
  first: ReadonlyMap<number, { day: Day; quantity: number }>;
}

export function loadsOf(db: Db, supplier: SupplierId, from: Day, until: Day): KnownLoads {
  const all = metReceipts(db, supplier, until);
  const met = all.filter((r) => r.day >= from);
  const lines = [...new Set(met.map((r) => r.line))];
  const tolerances = tolerancesOfLines(db, lines);
  const first = new Map<number, { day: Day; quantity: number }>();
  for (const r of all) {
    const known = first.get(r.line);
    if (!known) first.set(r.line, { day: r.day, quantity: r.quantity });
    else if (known.day === r.day) known.quantity += r.quantity;
  }
  return {
    all,
    loads: met.map((r) => ({ ...r, tolerated: tolerances.get(r.line)?.lateDays ?? 0 })),
    ordered: orderedOf(db, lines),
    first,
  };
}

const orderedOf = (db: Db, lines: readonly OrderLineId[]) =>
  new Map(
    sql<{ line: number; quantity: number }>(
      db,
      "SELECT id AS line, quantity FROM order_line WHERE id IN (SELECT value FROM json_each(?))",
    )
      .all(JSON.stringify(lines))
      .map((l) => [l.line, l.quantity]),
  );

/** Lines whose first load lies in the period, with whether all of it came with it. */
export function firstLoads(k: KnownLoads, period: DaySpan): { load: RecordLoad; whole: boolean }[] {
  const seen = new Set<number>();
  return k.loads.flatMap((load) => {
    const first = k.first.get(load.line)!;
    if (seen.has(load.line) || first.day !== load.day || !inSpan(period, load.day)) return [];
    seen.add(load.line);
    return [{ load, whole: first.quantity >= (k.ordered.get(load.line) ?? 0) }];
  });
}

export const SAID = `
  SELECT p.order_line AS line, p.day, p.at, l.words, o.id AS "order", o.number FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id JOIN promise p ON p.order_line = l.id
  WHERE o.supplier = ? AND p.at IS NOT NULL ORDER BY p.order_line, p.at`;
export type SaidRow = PromiseSaid & { words: string; order: number; number: string };

const ANSWERED = `
  SELECT o.id AS "order", o.number, substr(o.placed, 1, 10) AS day, o.placed,
         min(coalesce((SELECT min(a.at) FROM answer a WHERE a.purchase_order = o.id), '9'),
             coalesce((SELECT min(p.at) FROM order_line l JOIN promise p ON p.order_line = l.id WHERE l.purchase_order = o.id), '9')) AS answered
  FROM purchase_order o WHERE o.supplier = @supplier AND o.placed >= @from AND o.placed < date(@until, '+1 day')`;
interface AnsweredRow {
  order: number;
  number: string;
  day: Day;
  placed: string;
  answered: string;
}
/** Orders that they answered, with the minutes it took; what was written down as said before it was sent took none. */
export const answeredIn = (db: Db, supplier: SupplierId, period: DaySpan) =>
  sql<AnsweredRow>(db, ANSWERED)
    .all({ supplier, ...period })
    .filter((o) => o.answered !== "9")
    .map((o) => ({ ...o, minutes: Math.max(0, Math.round((Date.parse(o.answered) - Date.parse(o.placed)) / 60_000)) }));

interface Bought {
  item: number;
  name: string;
  /** Stock units, and what they came to at home. */
  quantity: number;
  home: number;
}
function boughtIn(all: readonly MetReceipt[], span: DaySpan): Map<number, Bought> {
  const by = new Map<number, Bought>();
  for (const r of all) {
    if (r.item === null || !inSpan(span, r.day)) continue;
    const b = by.get(r.item);
    if (b) {
      b.quantity += r.stockQuantity;
      b.home += r.home;
    } else by.set(r.item, { item: r.item, name: r.name, quantity: r.stockQuantity, home: r.home });
  }
  return by;
}

/** Items that were bought in the period and in the same days a year before: what those of now came to at the mean price of then. */
export function pricesOf({ all }: KnownLoads, period: DaySpan) {
  const then = boughtIn(all, { from: yearBefore(period.from), until: yearBefore(period.until) });
  return [...boughtIn(all, period).values()]
    .sort((a, b) => a.item - b.item)
    .flatMap((b) => {
      const was = then.get(b.item);
      if (!was || was.quantity <= 0 || b.quantity <= 0) return [];
      return [{ ...b, earlier: roundToInteger(new Big(was.home).times(b.quantity).div(was.quantity)) }];
    });
}

interface AsideRow {
  receipt: number;
  number: string;
  line: number;
  day: Day;
  name: string;
  why: AsideReason;
}
export const asidesIn = (db: Db, supplier: SupplierId, period: DaySpan): AsideRow[] =>
  sql<AsideRow>(
    db,
    `SELECT r.id AS receipt, r.number, l.id AS line, r.day, coalesce(i.name, l.words) AS name, min(a.why) AS why
     FROM receipt r JOIN purchase_order o ON o.id = r.purchase_order JOIN set_aside a ON a.receipt = r.id JOIN order_line l ON l.id = a.order_line LEFT JOIN item i ON i.id = l.item
     WHERE o.supplier = @supplier AND r.day BETWEEN @from AND @until AND a.why <> 'early' GROUP BY r.id, l.id ORDER BY r.day DESC`,
  ).all({ supplier, ...period });

interface HeldInvoice {
  id: number;
  number: string;
  day: Day;
  /** Why, by commas; "" where it matched by itself. */
  why: string;
}
export const invoicesIn = (db: Db, supplier: SupplierId, period: DaySpan): HeldInvoice[] =>
  sql<HeldInvoice>(
    db,
    `SELECT v.id, v.number, v.day,
            coalesce(nullif((SELECT group_concat(DISTINCT p.reason) FROM invoice_pass p WHERE p.invoice = v.id), ''), iif(v.state IN ('Held', 'Sent back'), lower(v.state), '')) AS why
     FROM invoice v WHERE v.supplier = @supplier AND v.kind = 'invoice' AND v.ours = 0 AND v.day BETWEEN @from AND @until AND v.state <> 'Taken off' ORDER BY v.day DESC`,
  ).all({ supplier, ...period });

/** What came in some days, less what was undone, home currency. */
export const receivedIn = (db: Db, supplier: SupplierId, period: DaySpan): number =>
  sql<{ home: number }>(
    db,
    `SELECT coalesce(sum(x.home_value - x.home_undone), 0) AS home FROM purchase_order o JOIN receipt r ON r.purchase_order = o.id JOIN receipt_line_now x ON x.receipt = r.id
     WHERE o.supplier = @supplier AND r.day BETWEEN @from AND @until`,
  ).get({ supplier, ...period })!.home;
