import type { Day } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { placingFrom } from "../../../core/placing/choice";
import { type ReckonedOrder, reckonPlacing } from "../../../core/placing/reckon";
import type { Facts } from "../../../core/signoff/rulebook";
import { type Db, sql } from "../../db/open";
import { factsOfOrder, routeOf } from "../signoff/route";
import { readRoster } from "../signoff/staff";
import type { BenchSheet } from "./bench";

/** An order as writing the bench would make it. */
export interface PreviewOrder {
  key: string;
  supplier: string;
  store: string;
  currency: string;
  /** The draft that the lines join, if they join one. */
  joins: { id: number; name: string } | null;
  lines: {
    row: string;
    name: string;
    code: string;
    quantity: number;
    unit: string;
    covers: string;
    price: number | null;
    net: number | null;
    lateBy: number;
  }[];
  /** All goods of the order, those that the draft held included. */
  goods: number;
  freight: number;
  /** What writing adds, landed, in home currency; null where a price is missing. */
  adds: number | null;
  arrives: Day | null;
  lacks: number;
  /** Who will have to sign, or why it could not be submitted as it stands. */
  signs: { ok: true; names: string[] } | { ok: false; says: string };
}

/** What writing a bench would make, order by order. */
export function previewOf(
  db: Db,
  sheet: BenchSheet,
  person: PersonId,
  day: Day,
): { orders: PreviewOrder[]; left: number } {
  const { problem } = sheet;
  const reckoned = reckonPlacing(problem, placingFrom(problem.rows, sheet.choices));
  const categoryOf = (code: string) =>
    sql<{ category: string }>(db, "SELECT category FROM item WHERE code = ?").get(code)?.category;
  const before = (o: ReckonedOrder): number => {
    const draft = sheet.drafts.find((d) => d.joined && d.supplier === o.supplier && d.store === o.store);
    return draft
      ? sql<{ home: number }>(db, "SELECT home_net + home_freight AS home FROM purchase_order WHERE id = ?").get(
          draft.id,
        )!.home
      : 0;
  };
  const orders = reckoned.orders.map((o): PreviewOrder => {
    const draft = sheet.drafts.find((d) => d.joined && d.supplier === o.supplier && d.store === o.store) ?? null;
    const amount = (o.goodsHome ?? 0) + (o.freightHome ?? 0) + before(o);
    const categories = o.lines.flatMap((l) => categoryOf(sheet.rows[l.row.id]!.code) || []);
    const joined = draft && factsOfOrder(db, draft.id, day);
    const facts: Facts = {
      paper: "order",
      amount,
      department: joined?.department ?? readRoster(db, day).departmentOf(person),
      categories: [...new Set([...categories, ...(joined?.categories ?? [])])],
      supplier: o.supplier,
      store: o.store,
      kind: joined?.kind ?? "one-off",
      overBudget: joined?.overBudget ?? false,
    };
    const { way } = routeOf(db, facts, person, day);
    return {
      key: o.key,
      supplier: o.terms.name,
      store: problem.stores[o.store] ?? "",
      currency: o.terms.currency,
      joins: draft && { id: draft.id, name: draft.name },
      lines: o.lines.map((l) => ({
        row: l.row.id,
        name: l.row.name,
        code: sheet.rows[l.row.id]!.code,
        quantity: l.buy,
        unit: l.offer.packing.unit,
        covers: l.row.stockUnit,
        price: l.level === null ? null : l.offer.levels[l.level]!.price,
        net: l.net,
        lateBy: l.offer.lateBy,
      })),
      goods: o.goods,
      freight: o.freight,
      adds: o.goodsHome === null ? null : o.goodsHome + (o.freightHome ?? 0),
      arrives: o.arrives,
      lacks: o.lacks,
      signs: way.ok ? { ok: true, names: way.seats.map((s) => s.name) } : way,
    };
  });
  const placed = new Set(reckoned.orders.flatMap((o) => o.lines.map((l) => l.row.id)));
  return { orders, left: problem.rows.filter((r) => !placed.has(r.id)).length + sheet.gone.length };
}
