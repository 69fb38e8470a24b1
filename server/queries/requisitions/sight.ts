import type { Day } from "../../../core/calendar/day";
import { may } from "../../../core/people/roles";
import type { Person } from "../../acts/desk";
import type { Db } from "../../db/open";
import { isAskedOf } from "../signoff/waiting";
import type { RequisitionLine, RequisitionSheet } from "./requisition";

/**
 * How somebody may see a requisition: whole, without what it will cost, or not at all (null). A draft is its writer's
 * alone. Whoever is told of it sees it as their own role may.
 */
export function sightOf(db: Db, sheet: RequisitionSheet, person: Person, day: Day): "whole" | "without money" | null {
  if (sheet.head.asker === person.id) return "whole";
  if (sheet.head.state === "Draft") return null;
  const opens =
    may(person.roles, "see all requisitions") ||
    sheet.watchers.some((p) => p.id === person.id) ||
    isAskedOf(db, sheet.signings, person.id, day);
  if (!opens) return null;
  return may(person.roles, "see prices") ? "whole" : "without money";
}

/** Field by field what somebody sees who may not see prices: no estimate, no sum, no limit of a ladder. */
export const withoutMoney = (s: RequisitionSheet): RequisitionSheet => ({
  head: s.head,
  lines: s.lines.map(lineWithoutMoney),
  signings: [], // who signed, the trail says
  watchers: s.watchers,
  attachments: s.attachments,
  // An order, and a receipt of another store, would not open.
  trail: s.trail.map((t) => ({ ...t, href: /^\/(orders|receipts)\//.test(t.href ?? "") ? null : t.href })),
  about: null,
});

const lineWithoutMoney = (l: RequisitionLine): RequisitionLine => ({
  id: l.id,
  position: l.position,
  item: l.item,
  code: l.code,
  itemName: l.itemName,
  unit: l.unit,
  words: l.words,
  kind: l.kind,
  quantity: l.quantity,
  account: null,
  budget: null,
  decided: l.decided,
  estimate: null,
  costKnown: false,
  about: null,
  declined: l.declined,
  transfer: l.transfer,
  orders: l.orders,
});
