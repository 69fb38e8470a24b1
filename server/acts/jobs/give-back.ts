import { z } from "zod";
import type { ItemId, JobId, StoreId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, QuantityField } from "../fields";
import { returnToShelf } from "../stock/stock";

/** A job gives something back to stock, such as a rebuilt pump. */
export function giveBack(desk: Desk, raw: unknown): Done<{ left: number }> {
  const input = checked(z.object({ output: Id, quantity: QuantityField }), raw);
  if (!input.ok) return input;
  const { output, quantity } = input.value;
  return once(desk, "move stock", (tx) => {
    const line = sql<{ job: JobId; item: ItemId; store: StoreId; left: number }>(
      tx.db,
      "SELECT t.job, t.item, t.store, t.quantity - t.given AS left FROM job_output t JOIN job j ON j.id = t.job WHERE t.id = ? AND j.closed IS NULL",
    ).get(output);
    if (!line) return refuse("", "This line is not open any more.");
    if (quantity > line.left)
      return refuse("quantity", `Only ${quantityText(line.left)} is still to come from this job.`);
    sql(tx.db, "UPDATE job_output SET given = given + ? WHERE id = ?").run(quantity, output);
    returnToShelf(tx.db, desk, { job: line.job, item: line.item, store: line.store, quantity, kind: "output" });
    tx.record("job.gave-back", `job ${line.job}`, { output, quantity });
    return done({ left: line.left - quantity });
  });
}
