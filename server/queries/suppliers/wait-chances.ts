import { type Day, daysBetween, laterOf } from "../../../core/calendar/day";
import type { ItemId } from "../../../core/ids";
import type { Cover } from "../../../core/needs/lacking";
import { type Chance, chanceOf, chanceOfAll, knownDays, type WaitChance } from "../../../core/suppliers/chance";
import type { Db } from "../../db/open";
import { pastDays } from "./past-days";

/** The chance of all that a line waits for; null where it waits for nothing. */
export function chanceOfCover(db: Db, item: ItemId, cover: Cover | null, due: Day, today: Day): WaitChance | null {
  if (!cover || (cover.draws.length === 0 && cover.lacking === 0)) return null;
  const by = laterOf(due, today);
  const loads: Chance[] = [];
  for (const { from } of cover.draws) {
    const known = from && knownDays(pastDays(db, from.supplier, item, today));
    if (!from || !known) return { loads: null, basisPoints: null };
    loads.push(chanceOf(known.days, daysBetween(from.promised, today), daysBetween(from.promised, by)));
  }
  return { loads, basisPoints: cover.lacking > 0 ? null : chanceOfAll(loads) };
}
