import { z } from "zod";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once } from "../desk";
import { Id } from "../fields";

/** Puts away one notice of the person's own, or all of them. */
export function readNotices(desk: Desk, raw: unknown): Done<{ read: number }> {
  const input = checked(z.object({ notice: Id.optional() }), raw);
  if (!input.ok) return input;
  const { notice } = input.value;
  return once(desk, "keep own inbox", (tx) => {
    const { changes } = notice
      ? sql(tx.db, "UPDATE notice SET read = ? WHERE person = ? AND id = ? AND read IS NULL").run(
          desk.now,
          desk.person.id,
          notice,
        )
      : sql(tx.db, "UPDATE notice SET read = ? WHERE person = ? AND read IS NULL").run(desk.now, desk.person.id);
    tx.record("notices.read", `person ${desk.person.id}`, { notice: notice ?? "all", changes });
    return done({ read: changes });
  });
}
