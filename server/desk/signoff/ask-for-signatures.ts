import type { Rung } from "../../../core/signoff/ladder";
import { sql } from "../../db/open";
import type { Paper } from "../../read/signoff";
import type { Desk, Tx } from "../desk";
import { retire, tell } from "../notices";

export const paperHref = (paper: Paper, id: number) => (paper === "order" ? `/orders/${id}` : `/requisitions/${id}`);

/** Opens a new round of signatures; the first rung is asked at once. Says who it waits for, or null where nobody signs. */
export function askForSignatures(
  tx: Tx,
  desk: Desk,
  paper: { paper: Paper; id: number; name: string },
  amount: number,
  rungs: readonly Rung[],
): string | null {
  retire(tx.db, desk.now, paperHref(paper.paper, paper.id));
  const column = paper.paper === "order" ? "purchase_order" : "requisition";
  const { round } = sql<{ round: number }>(
    tx.db,
    `SELECT coalesce(max(round), 0) + 1 AS round FROM signature WHERE ${column} = ?`,
  ).get(paper.id)!;
  const add = sql(
    tx.db,
    `INSERT INTO signature (paper, ${column}, round, position, team, amount, hours, asked, state) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  rungs.forEach((rung, i) => {
    const first = i === 0;
    add.run(
      paper.paper,
      paper.id,
      round,
      i + 1,
      rung.team!.id,
      amount,
      rung.hours,
      first ? desk.now : null,
      first ? "waiting" : "later",
    );
  });
  const first = rungs[0]?.team;
  if (!first) return null;
  tellTeam(tx, desk, first.members, paper);
  return first.name;
}

/** Tells everybody who could sign, but not the writer. */
export function tellTeam(
  tx: Tx,
  desk: Desk,
  members: readonly { id: number }[],
  paper: { paper: Paper; id: number; name: string },
): void {
  for (const m of members) {
    if (m.id !== desk.person.id) {
      tell(
        tx.db,
        desk.now,
        m.id,
        `${paper.name} waits for your signature`,
        `from ${desk.person.name}`,
        paperHref(paper.paper, paper.id),
      );
    }
  }
}
