import type { Day } from "../../../core/calendar/day";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import type { Waiting } from "../../../core/today/waiting";
import type { Person } from "../../acts/desk";
import type { Db } from "../../db/open";
import { toStow } from "../stock/shelves";
import { readStockCounts } from "../stock/stock-counts";

/** What waits in the stores: goods on the dock for their bins, counts to be made, and counts to be judged. */
export function stockWaits(db: Db, person: Person, today: Day, forYou: Waiting[]): void {
  const dock = may(person.roles, "count in");
  const lies = dock ? toStow(db, person.store) : 0;
  if (lies > 0)
    forYou.push({
      key: "stow",
      cost: "something to know",
      by: today,
      title: `${count(lies, "kind")} of goods to stow`,
      detail: "counted in, and not in their bins yet",
      ifItStays: "nobody finds them on the shelf",
      doing: "stow",
      stop: "Dock",
      href: "/stow",
    });
  for (const c of readStockCounts(db, person.store)) {
    const judges = may(person.roles, "judge counts");
    if (c.state === "Counted" && judges)
      forYou.push({
        key: `count/${c.id}`,
        cost: "a colleague waits",
        by: c.day,
        title: `Count ${c.number}, ${c.what}`,
        detail: c.differ === 0 ? "all of it as it should be" : `${c.differ} of ${count(c.lines, "place")} differ`,
        ifItStays: "the books say otherwise than the shelf",
        doing: c.differ === 0 ? "book" : "judge",
        stop: "Dock",
        href: `/stock-counts/${c.id}`,
      });
    if (c.state === "Open" && dock)
      forYou.push({
        key: `count/${c.id}`,
        cost: "a colleague waits",
        by: c.day,
        title: `Count ${c.number}, ${c.what}`,
        detail: `${c.counted} of ${count(c.lines, "place")} counted`,
        ifItStays: "nobody knows what lies there",
        doing: "count",
        stop: "Dock",
        href: `/stock-counts/${c.id}`,
      });
  }
}
