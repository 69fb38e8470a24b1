import { addDays, type Day, daysBetween, laterOf } from "../../../core/calendar/day";
import type { ItemId, SupplierId } from "../../../core/ids";
import { expectedOn, openOf } from "../../../core/orders/schedule";
import { type Chance, chanceOf, type KnownDays, knownDays } from "../../../core/suppliers/chance";
import type { Db } from "../../db/open";
import type { OrderSheet } from "../orders/order";
import { pastDays, pastDaysOf } from "./past-days";

/** What can be said of a line whose goods are awaited: how likely they are here by a day. */
export interface LineChance {
  /** The day that was asked for; a week from today where that has passed. */
  by: Day;
  promised: Day;
  /** Null where too few receipts are known. */
  chance: (Chance & { of: "item" | "supplier"; receipts: number }) | null;
}

/** By line: the chance of each part that is still to come, the earliest first. Only of an order that the supplier has. */
export function chancesOf(
  db: Db,
  { head, lines }: Pick<OrderSheet, "head" | "lines">,
  today: Day,
): Record<number, LineChance[]> {
  if (!head.placed || head.kind === "blanket") return {};
  const chances: Record<number, LineChance[]> = {};
  const chanceFor = lineChances(db, today);
  for (const l of lines) {
    if (l.kind === "charge" || l.received + l.closedShort >= l.quantity) continue;
    const open = l.instalments.filter((s) => openOf(s) > 0);
    const parts = open.length
      ? open.map((s) => ({ promised: expectedOn(s), asked: s.required }))
      : [{ promised: l.due, asked: l.required }];
    chances[l.id] = parts
      .sort((a, b) => (a.promised < b.promised ? -1 : 1))
      .map((days) => chanceFor(head.supplier, l.item, days));
  }
  return chances;
}

/** How likely goods that are promised for a day are here by the day that was asked for; a week from today where it has passed. */
export const lineChance = (
  db: Db,
  supplier: SupplierId,
  item: ItemId | null,
  days: ChanceDays,
  today: Day,
): LineChance => chanceAmong(knownDays(pastDays(db, supplier, item, today)), days, today);

/** The same for many lines: what is known of a supplier is looked up once for all of them. */
export function lineChances(db: Db, today: Day) {
  const past = new Map<SupplierId, ReturnType<typeof pastDaysOf>>();
  return (supplier: SupplierId, item: ItemId | null, days: ChanceDays): LineChance => {
    let of = past.get(supplier);
    if (!of) past.set(supplier, (of = pastDaysOf(db, supplier, today)));
    return chanceAmong(knownDays(of(item)), days, today);
  };
}

/** When goods are promised and asked for; `by` where another day counts than that. */
interface ChanceDays {
  promised: Day;
  asked: Day;
  by?: Day;
}

function chanceAmong(known: KnownDays | null, { promised, asked, by: day }: ChanceDays, today: Day): LineChance {
  const by = day ?? (asked > today ? asked : addDays(today, 7));
  return {
    by,
    promised,
    chance: known && {
      ...chanceOf(known.days, daysBetween(promised, today), daysBetween(promised, laterOf(by, today))),
      of: known.of,
      receipts: known.days.length,
    },
  };
}
