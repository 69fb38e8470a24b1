import type { Day } from "../calendar/day";
import type { DemandId } from "../ids";
import { type StockQty, stock } from "../numbers/quantity";
import type { OrderedFrom } from "./projection";

/** A line of a job or a customer order that still wants goods. */
export interface Wanting {
  id: DemandId;
  day: Day;
  quantity: StockQty;
}
export interface Coming {
  day: Day;
  quantity: StockQty;
  label: string;
  href?: string;
  from?: OrderedFrom;
}

/** What a line takes of something that is to come. */
export interface Portion {
  quantity: StockQty;
  from?: OrderedFrom;
}

/** Where the goods for one line come from: the shelf, orders in time, orders too late, or nowhere yet. */
export interface Cover {
  id: DemandId;
  fromShelf: StockQty;
  inTime: StockQty;
  /** Comes, but only after the day; the last of it on `lateDay`. */
  late: StockQty;
  lateDay: Day | null;
  lacking: StockQty;
  /** Of what is to come it takes these. */
  draws: Portion[];
}

/** What stands on orders that were written for one line alone: in time for it, or too late, the last of it on `lateDay`. */
export interface OwnCover {
  inTime: StockQty;
  late: StockQty;
  lateDay: Day | null;
  draws: Portion[];
}

/** Gives the parts of one order line, the earliest first, to the lines that it was written for, the earliest due first. */
export function sharedOut<Id>(
  parts: readonly { day: Day; quantity: number; from?: OrderedFrom }[],
  wanting: readonly { id: Id; day: Day; quantity: StockQty }[],
): Map<Id, OwnCover> {
  const left = byDay(parts).map((p) => ({ ...p }));
  const own = new Map<Id, OwnCover>();
  for (const line of byDay(wanting)) {
    let open: number = line.quantity;
    let [inTime, late, lateDay]: [number, number, Day | null] = [0, 0, null];
    const draws: Portion[] = [];
    for (const p of left) {
      const part = Math.min(open, p.quantity);
      if (part === 0) continue;
      p.quantity -= part;
      open -= part;
      draws.push(drawOf(part, p.from));
      if (p.day <= line.day) inTime += part;
      else {
        late += part;
        lateDay = p.day;
      }
    }
    own.set(line.id, { inTime: stock(inTime), late: stock(late), lateDay, draws });
  }
  return own;
}

const drawOf = (quantity: number, from: OrderedFrom | undefined): Portion => ({
  quantity: stock(quantity),
  ...(from ? { from } : {}),
});

const byDay = <T extends { day: Day }>(rows: readonly T[]): T[] =>
  [...rows].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));

/**
 * Gives what is on hand and on order to the lines of jobs, the earliest due first: the shelf, then what comes in time,
 * the earliest first, then what comes too late. Nothing is given twice.
 */
export function coverOf(
  onHand: StockQty,
  wanting: readonly Wanting[],
  coming: readonly Coming[],
  lots: readonly { until: Day; quantity: number }[] = [],
): Cover[] {
  // Lots that expire are given out first, and never to what is due after their last day.
  const expiring = [...lots].sort((a, b) => (a.until < b.until ? -1 : 1)).map((l) => ({ ...l, left: l.quantity }));
  let shelf = Math.max(0, onHand - lots.reduce((a, l) => a + l.quantity, 0));
  const fromLots = (line: Wanting): number => {
    let open: number = line.quantity;
    for (const l of expiring) {
      if (l.until < line.day) continue;
      const part = Math.min(open, l.left);
      l.left -= part;
      open -= part;
    }
    return line.quantity - open;
  };
  const orders = byDay(coming).map((o): Coming & { left: number } => ({ ...o, left: o.quantity }));
  const lines = [...wanting].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.id - b.id));
  const covers = lines.map((line) => {
    let open: number = line.quantity;
    const ofLots = fromLots(line);
    const rest = Math.min(open - ofLots, shelf);
    shelf -= rest;
    const fromShelf = ofLots + rest;
    open -= fromShelf;
    let inTime = 0;
    const draws: Portion[] = [];
    for (const o of orders) {
      if (open === 0 || o.day > line.day) break;
      const part = Math.min(open, o.left);
      o.left -= part;
      inTime += part;
      open -= part;
      if (part > 0) draws.push(drawOf(part, o.from));
    }
    return { line, fromShelf, inTime, open, draws };
  });
  // What comes late helps only after everybody who can be served in time has been.
  return covers.map(({ line, fromShelf, inTime, open, draws }) => {
    let late = 0;
    let lateDay: Day | null = null;
    for (const o of orders) {
      if (open - late === 0) break;
      const part = Math.min(open - late, o.left);
      if (part === 0) continue;
      o.left -= part;
      late += part;
      lateDay = o.day;
      draws.push(drawOf(part, o.from));
    }
    return {
      id: line.id,
      fromShelf: stock(fromShelf),
      inTime: stock(inTime),
      late: stock(late),
      lateDay,
      lacking: stock(open - late),
      draws,
    };
  });
}
