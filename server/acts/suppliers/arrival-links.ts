import { z } from "zod";
import { sql } from "../../db/open";
import { linkHash } from "../../queries/quotes/quotes";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, orNone } from "../fields";
import { newLink } from "../orders/order-link";

/** So many calendar links somebody has at most. */
const MOST = 20;

/** Makes a private link to what is expected at a store, or at all of them. Only its hash is kept, so it is shown this once. */
export function makeArrivalLink(desk: Desk, raw: unknown): Done<{ calendar: string }> {
  const input = checked(z.object({ store: orNone(Id).optional() }), raw);
  if (!input.ok) return input;
  const store = input.value.store ?? null;
  const link = newLink();
  const made = once(desk, "see dock", (tx) => {
    if (store !== null && !sql(tx.db, "SELECT 1 FROM store WHERE id = ?").get(store))
      return refuse("store", "There is no such store.");
    const { n } = sql<{ n: number }>(
      tx.db,
      "SELECT count(*) AS n FROM arrival_link WHERE person = ? AND ended IS NULL",
    ).get(desk.person.id)!;
    if (n >= MOST) return refuse("", `At most ${MOST} links. End one that nobody uses any more.`);
    sql(tx.db, "INSERT INTO arrival_link (link, person, store, made) VALUES (?, ?, ?, ?)").run(
      linkHash(link),
      desk.person.id,
      store,
      desk.now,
    );
    tx.record("arrivals.link-made", `person ${desk.person.id}`, { store });
    return done({});
  });
  if (!made.ok) return made;
  // What an act answers is kept with its key, and this must not be.
  const kept = sql(desk.db, "SELECT 1 FROM arrival_link WHERE link = ?").get(linkHash(link));
  return kept
    ? done({ calendar: link })
    : refuse("", "This link was made already, and is shown only once. Make another one.");
}

/** Ends a calendar link of one's own: a calendar that asks for it gets nothing any more. */
export function endArrivalLink(desk: Desk, raw: unknown): Done<{ ended: number }> {
  const input = checked(z.object({ link: Id }), raw);
  if (!input.ok) return input;
  const { link } = input.value;
  return once(desk, "keep own inbox", (tx) => {
    const ended = sql(tx.db, "UPDATE arrival_link SET ended = ? WHERE id = ? AND person = ? AND ended IS NULL").run(
      desk.now,
      link,
      desk.person.id,
    );
    if (ended.changes === 0) return refuse("", "This link was ended already.");
    tx.record("arrivals.link-ended", `person ${desk.person.id}`, { link });
    return done({ ended: link });
  });
}
