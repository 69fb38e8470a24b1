import { addDays, type Day } from "../../../core/calendar/day";
import { lineNet } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import type { Waiting } from "../../../core/today/waiting";
import type { Person } from "../../acts/desk";
import { type Db, sql } from "../../db/open";
import { readRefills } from "../consigned/refills";
import { type PricedRow, readConsigned, refillNeeds, withWorth } from "../consigned/shelves";
import { readStatements } from "../consigned/statements";

/** So many days before it becomes ours the buyer is told. */
const AHEAD = 14;

/** What of suppliers' goods waits for somebody: what becomes ours soon, what is below the least, refills that are late, statements. */
export function consignedWaits(db: Db, person: Person, today: Day, forYou: Waiting[], withOthers: Waiting[]): void {
  if (may(person.roles, "ask for refills")) buyerWaits(db, today, forYou);
  if (!may(person.roles, "settle statements")) return;
  for (const s of readStatements(db)) {
    const what = `Use statement ${s.number} of ${s.supplierName}`;
    const detail = "what was used, with tax";
    const figure = { minor: s.total, currency: s.currency };
    const of = {
      key: `statement/${s.id}`,
      by: s.until,
      title: what,
      stop: "Dock" as const,
      href: `/statements/${s.id}`,
      figure,
    };
    if (s.state === "Questioned")
      forYou.push({
        ...of,
        cost: "a colleague waits",
        detail: s.said.slice(0, 80),
        ifItStays: "it is not agreed, and not paid",
        doing: "look",
      });
    else if (s.state === "Made")
      forYou.push({
        ...of,
        cost: "something to know",
        detail,
        ifItStays: "the supplier does not know of it",
        doing: "send",
      });
    else if (s.state === "Sent")
      withOthers.push({
        ...of,
        cost: "something to know",
        detail,
        ifItStays: "it is not agreed, and not paid",
        doing: "open",
      });
  }
}

function buyerWaits(db: Db, today: Day, forYou: Waiting[]): void {
  const soon = readConsigned(db, today).filter((r) => r.next !== null && r.next.day <= addDays(today, AHEAD));
  const groups = new Map<string, PricedRow[]>();
  for (const r of withWorth(db, soon, today)) {
    const key = `${r.agreement}/${r.next!.day}`;
    groups.set(key, [...(groups.get(key) ?? []), r]);
  }
  for (const [key, rows] of groups) {
    const [first] = rows;
    const costs = rows.map((r) =>
      r.price === null ? null : lineNet(r.next!.becomes, r.price, 0, 0, r.currency).minor,
    );
    const known = costs.every((c) => c !== null);
    forYou.push({
      key: `ripe/${key}`,
      cost: "a price could be better",
      by: first!.next!.day,
      title:
        rows.length === 1
          ? `${quantityText(first!.next!.becomes)} ${first!.name} become ours`
          : `${count(rows.length, "item")} of ${first!.supplierName} become ours`,
      detail: `${first!.storeName}, what is not used by then${known ? "" : "; a price is missing"}`,
      ifItStays: "order and receipt write themselves",
      ...(known
        ? { figure: { minor: costs.reduce((sum: number, c) => sum + (c ?? 0), 0), currency: first!.currency } }
        : {}),
      doing: "decide",
      stop: "Dock",
      href: `/consigned?at=${first!.id}`,
    });
  }
  for (const [agreement, needs] of refillNeeds(db, today)) {
    const of = sql<{ supplier: string; store: string }>(
      db,
      "SELECT s.name AS supplier, t.name AS store FROM agreement a JOIN supplier s ON s.id = a.supplier JOIN store t ON t.id = a.store WHERE a.id = ?",
    ).get(agreement)!;
    forYou.push({
      key: `refill-need/${agreement}`,
      cost: "something to know",
      by: today,
      title: `Ask ${of.supplier} for a refill`,
      detail: `${count(needs.length, "item")} below the least at ${of.store}`,
      ifItStays: "it runs out, and is bought after all",
      doing: "ask",
      stop: "Dock",
      href: "/refills",
    });
  }
  for (const f of readRefills(db, { open: true })) {
    const due = f.promised ?? f.wanted;
    if (due < today)
      forYou.push({
        key: `refill/${f.id}`,
        cost: "something to know",
        by: due,
        title: `Refill ${f.number} is late`,
        detail: `${f.supplierName} to ${f.storeName}`,
        ifItStays: "the shelf runs out",
        doing: "chase",
        stop: "Dock",
        href: `/refills?at=${f.id}`,
      });
  }
}
