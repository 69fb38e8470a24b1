import type { Day } from "../../../core/calendar/day";
import type { Db } from "../../db/open";
import { type OrderRow, readWithSuppliers } from "../orders/lists";
import { remember } from "../remember";
import { leastChances } from "./open-lines";

/**
 * Orders with suppliers, each with the chance of the part that is least likely in time, hundredths of a percent; null where
 * too little is known, nothing is awaited, or some of it is late already.
 */
export const rowsWithChances = (db: Db, today: Day): (OrderRow & { chance: number | null })[] =>
  remember(db, `with suppliers and chances/${today}`, () => {
    const least = leastChances(db, today);
    return readWithSuppliers(db, today).map((r) => ({ ...r, chance: least.get(r.id) ?? null }));
  });
