import { z } from "zod";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once } from "../desk";
import { Id, orNone } from "../fields";

const Key = z.string().regex(/^[a-z]:\d{1,15}(:\d{1,15})?$/, "This is not one of the needs.");
export const ChooseNeeds = z.object({
  choices: z
    .array(
      z.object({
        need: Key,
        ticked: z.boolean().optional(),
        quantity: z.string().max(30).nullable().optional(),
        sourcing: orNone(Id).optional(),
      }),
    )
    .min(1, "Nothing was chosen.")
    .max(5000, "At most 5,000 at once."),
});

/** Keeps what a person ticks, types and chooses in Needs, until it is placed or given up. */
export function chooseNeeds(desk: Desk, raw: unknown): Done<{ kept: number }> {
  const input = checked(ChooseNeeds, raw);
  if (!input.ok) return input;
  const { choices } = input.value;
  return once(desk, "plan", (tx) => {
    const put = sql(
      tx.db,
      `INSERT INTO need_choice (person, need, ticked, quantity, sourcing) VALUES (@person, @need, coalesce(@ticked, 0), @quantity, @sourcing)
       ON CONFLICT (person, need) DO UPDATE SET ticked = coalesce(@ticked, ticked),
         quantity = iif(@hasQuantity, @quantity, quantity), sourcing = iif(@hasSourcing, @sourcing, sourcing)`,
    );
    for (const c of choices) {
      put.run({
        person: desk.person.id,
        need: c.need,
        ticked: c.ticked === undefined ? null : c.ticked ? 1 : 0,
        quantity: c.quantity || null,
        sourcing: c.sourcing ?? null,
        hasQuantity: c.quantity === undefined ? 0 : 1,
        hasSourcing: c.sourcing === undefined ? 0 : 1,
      });
    }
    sql(tx.db, "DELETE FROM need_choice WHERE person = ? AND ticked = 0 AND quantity IS NULL AND sourcing IS NULL").run(
      desk.person.id,
    );
    tx.record(
      "needs.chosen",
      `person ${desk.person.id}`,
      choices.length > 20 ? { needs: choices.length } : { choices },
    );
    return done({ kept: choices.length });
  });
}

/** Unticks everything and forgets what was typed and chosen. */
export function forgetChoices(desk: Desk): Done<{ forgotten: number }> {
  return once(desk, "plan", (tx) => {
    const forgotten = sql(tx.db, "DELETE FROM need_choice WHERE person = ?").run(desk.person.id).changes;
    tx.record("needs.choices-forgotten", `person ${desk.person.id}`, { forgotten });
    return done({ forgotten });
  });
}
