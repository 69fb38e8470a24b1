import type { Day } from "../../../core/calendar/day";
import type { BudgetId, OrderId, SourcingId } from "../../../core/ids";
import { ONE, purchase } from "../../../core/numbers/quantity";
import type { LineKind } from "../../../core/orders/kinds";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import type { Need } from "../../queries/needs/need";
import { readOrderHead } from "../../queries/orders/order";
import { perUnit } from "../../queries/placing/offers";
import type { Desk } from "../desk";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { insertLine } from "./add-lines";
import { lastPosition, newDraft, noteHand } from "./order-for";
import { priceOrder } from "./price-order";
import { refitTies, tieTo } from "./ties";

/** A line to be written: a need as its supplier sells it, with what it covers of which needs, in stock units. */
export interface NewLine {
  need: Need;
  quantity: number;
  serves: readonly { key: string; wanted: number }[];
}

/** What a need asks to be covered: itself, or its parts where several stand merged. */
export const servedByLines = (need: Need): { key: string; wanted: number }[] =>
  need.parts.length ? need.parts.map(({ key, wanted }) => ({ key, wanted })) : [{ key: need.key, wanted: need.wanted }];

/** The day to ask for: the day of need, or the earliest possible where that is too late already. */
const requiredFor = (n: Need, today: Day): Day => {
  const wished = n.lateBy > 0 && n.arrives ? n.arrives : n.neededOn;
  return wished < today ? today : wished;
};

/** Writes lines for one supplier and store: onto a draft that stands already, or a new one. Returns the draft. */
export function writeLines(db: Db, desk: Desk, lines: readonly NewLine[], onto: OrderId | null = null): OrderId {
  const first = lines[0]!.need;
  const supplier = first.supplier!;
  const days = lines.map((l) => requiredFor(l.need, desk.day)).sort();
  const order = onto ?? newDraft(db, desk, supplier, first.store, days[0]!);
  if (onto !== null) noteHand(db, desk, order);
  if (onto !== null)
    sql(db, "UPDATE purchase_order SET required = min(required, ?), version = version + 1 WHERE id = ?").run(
      days[0],
      onto,
    );
  const company = theCompany(db);
  const last = lastPosition(db, order);
  const head = readOrderHead(db, order)!;
  lines.forEach(({ need, quantity, serves }, i) => {
    const source = need.sourcing === null ? null : sourcingOf(db, need.sourcing);
    // A service has no record to price it from: what the asker was told is a start, with a warning.
    const told = source || supplier.currency !== company.currency ? null : (need.requisition?.estimate ?? null);
    const line = insertLine(
      db,
      head,
      {
        kind: kindOf(db, need),
        item: need.item,
        sourcing: need.sourcing,
        words: need.name,
        theirCode: source?.theirCode ?? "",
        unit: source?.unit ?? "C62",
        factor: source?.factor ?? ONE,
        quantity: purchase(quantity),
        price: told === null ? null : perUnit(told, purchase(quantity), company.currency),
        typed: false,
        standing: source?.standing ?? 0,
        discount: 0,
        required: requiredFor(need, desk.day),
        note: "",
        blanketLine: null,
        ...chargedTo(db, serves),
      },
      last + i + 1,
    );
    for (const { key, wanted } of serves) tieTo(db, line, key, wanted);
    refitTies(db, line);
  });
  priceOrder(db, order, desk.day);
  settleRequisitionsOf(db, order);
  return order;
}

const kindOf = (db: Db, need: Need): LineKind =>
  need.item === null
    ? "service"
    : sql<{ kind: LineKind }>(db, "SELECT kind FROM item WHERE id = ?").get(need.item)!.kind;

/** The account and budget that a requisition named, where the line serves one. */
function chargedTo(db: Db, serves: NewLine["serves"]): { account: string | null; budget: BudgetId | null } {
  const asked = serves.find((s) => s.key.startsWith("r:"))?.key.slice(2);
  const row = asked
    ? sql<{ account: string | null; budget: BudgetId | null }>(
        db,
        "SELECT account, budget FROM requisition_line WHERE id = ?",
      ).get(asked)
    : undefined;
  return row ?? { account: null, budget: null };
}

const sourcingOf = (db: Db, id: SourcingId) =>
  sql<{ theirCode: string; unit: string; factor: number; standing: number }>(
    db,
    "SELECT their_code AS theirCode, unit, factor, standing_discount AS standing FROM sourcing WHERE id = ?",
  ).get(id)!;
