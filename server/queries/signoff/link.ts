import type { PersonId } from "../../../core/ids";
import type { Paper } from "../../../core/signoff/papers";
import { type Db, sql } from "../../db/open";
import { linkHash } from "../quotes/quotes";
import { JOIN_PAPER, type PaperRow, WHICH_PAPER } from "./papers";

/** The paper that a private link leads to, or why it leads nowhere for this person now. */
export function findSignLink(
  db: Db,
  link: string,
  person: PersonId,
  now: string,
): { paper: Paper; id: number; signing: number } | { says: string; theirs: boolean } {
  const row = sql<
    PaperRow & {
      person: PersonId;
      ends: string;
      used: string | null;
      signing: number;
      state: string;
    }
  >(
    db,
    `SELECT l.person, l.ends, l.used, g.id AS signing, ${WHICH_PAPER}, t.state
     FROM sign_link l JOIN seat t ON t.id = l.seat JOIN signing g ON g.id = t.signing ${JOIN_PAPER} WHERE l.link = ?`,
  ).get(linkHash(link));
  if (!row) return { says: "There is no such link. Look under Sign-off what waits for you.", theirs: true };
  if (row.person !== person) return { says: "This link was sent to somebody else.", theirs: false };
  if (row.used !== null) return { says: "This link was used already; each works once.", theirs: true };
  if (row.ends < now) return { says: "This link has ended. Look under Sign-off what waits for you.", theirs: true };
  if (row.state !== "waiting") return { says: "This paper does not wait for that signature any more.", theirs: true };
  return { paper: row.paper, id: row.paperId, signing: row.signing };
}
