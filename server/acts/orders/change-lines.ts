import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { OrderLineId, StoreId } from "../../../core/ids";
import { type AddedToPlaced, changedSchedule, type LineChange } from "../../../core/orders/changes";
import { isPlain } from "../../../core/orders/kinds";
import { openOfAll } from "../../../core/orders/schedule";
import { partsLeft, saidFault } from "../../../core/suppliers/answer";
import { type Db, sql } from "../../db/open";
import { type OrderHead, readOrderLines } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { type Desk, type Done, done, type Problem, refuse, refuseAll } from "../desk";
import { Id, orNone } from "../fields";
import { readTyped, SaidLineFields } from "../suppliers/answer-fields";
import { faultWords, HOUSE_FAULTS } from "../suppliers/fault-words";
import { writeSchedule } from "../suppliers/promises";
import { AddLines } from "./add-lines";
import { addToPlaced, readAdded } from "./placed-lines";
import { keepTotals } from "./price-order";
import { openNeedsAgain, refitTies } from "./ties";

/** What is asked to be different of a placed order: of lines that it has, and lines besides. */
export const ChangeFields = {
  lines: z
    .array(SaidLineFields.extend({ store: orNone(Id).optional() }))
    .max(2000)
    .default([]),
  add: AddLines.shape.add.min(0).default([]),
};
const Changes = z.object(ChangeFields);

/** All that a change asks for, read. */
export interface Changes {
  lines: LineChange[];
  added: AddedToPlaced[];
}

interface Changeable {
  id: OrderLineId;
  position: number;
  store: StoreId;
  came: number;
  invoiced: number;
  /** They said something of it that is not decided. */
  waits: 0 | 1;
}

/** What is asked, looked at as an answer is: nobody asks for a day that has passed. */
export function readChanges(
  db: Db,
  desk: Pick<Desk, "day" | "hour">,
  head: OrderHead,
  asked: z.output<typeof Changes>,
): Done<Changes> {
  if (asked.lines.length + asked.add.length === 0) return refuse("", "Change at least one line, or add one.");
  const known = new Map(
    sql<Changeable>(
      db,
      `SELECT id, position, store, received AS came, invoiced, EXISTS (SELECT 1 FROM answer_line w WHERE w.order_line = l.id AND w.state = 'waits') AS waits
       FROM order_line l WHERE purchase_order = ? AND open = 1`,
    )
      .all(head.id)
      .map((l) => [l.id, l]),
  );
  const read = readTyped(asked.lines, (line) => openOfAll(readSchedule(db, line)) || null, ".", HOUSE_FAULTS);
  if (!read.ok) return read;
  const stores = new Map(asked.lines.map((l) => [l.line, l.store ?? null]));
  const problems: Problem[] = [];
  const lines = read.value.flatMap(({ line, said }): LineChange[] => {
    const of = known.get(line);
    const no = (says: string, field = "parts"): LineChange[] => {
      problems.push({ field: `line.${line}.${field}`, says });
      return [];
    };
    if (!of) return no(HOUSE_FAULTS.notOpen);
    if (of.waits) return no(`They have said something of line ${of.position} that waits. Decide on it first.`);
    const schedule = readSchedule(db, line);
    const fault = said.parts === null ? null : saidFault({ schedule }, said, desk.day);
    if (fault) return no(faultWords(HOUSE_FAULTS, fault, schedule));
    const asksFor = stores.get(line);
    const store = asksFor && asksFor !== of.store ? asksFor : null;
    const wrong = store && wrongStore(db, head, of, store);
    if (wrong) return no(wrong, "store");
    if (said.price !== null && of.invoiced > 0)
      return no(
        `Line ${of.position} is invoiced: its price stays. Take the invoice off first, or add a line.`,
        "price",
      );
    if (said.parts === null && said.price === null && store === null) return no("Nothing of it is different.");
    return [{ line, open: openOfAll(schedule), parts: said.parts, price: said.price, store }];
  });
  const added = readAdded(db, desk, head, asked.add);
  if (!added.ok) problems.push(...added.problems);
  return problems.length || !added.ok ? refuseAll(problems) : done({ lines, added: added.value });
}

/** Why the rest of a line cannot come to another store. */
function wrongStore(db: Db, head: OrderHead, of: Changeable, store: StoreId): string | null {
  if (!sql(db, "SELECT 1 FROM store WHERE id = ?").get(store)) return "There is no such store.";
  if (!isPlain(head.kind)) return "This order does not bring goods to a store.";
  return of.came > 0 ? "Part of it came already. Let the rest go here, and add a line for the other store." : null;
}

/** The order as we ask for it now, and what it comes to then. Their supplier has to confirm it again. */
export function applyChanges(db: Db, head: OrderHead, { lines: changes, added }: Changes, day: Day): void {
  const lines = new Map(readOrderLines(db, head.id, head.currency).map((l) => [l.id, l]));
  for (const c of changes) {
    const line = lines.get(c.line);
    const schedule = readSchedule(db, c.line);
    const open = openOfAll(schedule);
    if (!line || open === 0) continue;
    if (c.price !== null)
      sql(db, "UPDATE order_line SET price = ?, price_source = ? WHERE id = ?").run(
        c.price,
        JSON.stringify({ kind: "typed" }),
        c.line,
      );
    const parts = c.parts && partsLeft(c.parts, c.open - open);
    if (parts) {
      const whole = writeSchedule(db, c.line, schedule, changedSchedule(schedule, parts));
      if (parts.length === 0) openNeedsAgain(db, c.line, line.received, line.factor);
      else if (whole !== line.quantity) refitTies(db, c.line);
    }
    // What some of it came for meanwhile stays where that is.
    if (c.store !== null && line.received === 0) {
      sql(db, "UPDATE order_line SET store = ?, bin = '' WHERE id = ?").run(c.store, c.line);
      openNeedsAgain(db, c.line, 0, line.factor);
    }
    sql(db, "UPDATE order_line SET answered = NULL WHERE id = ?").run(c.line);
  }
  addToPlaced(db, head, added, day);
  keepTotals(db, head, readOrderLines(db, head.id, head.currency), day, head.rate);
}
