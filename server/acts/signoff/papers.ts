import type { Day } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import type { Paper } from "../../../core/signoff/papers";
import { type Db, sql } from "../../db/open";
import { bindAgreement } from "../consigned/submit-agreement";
import { makeChange, waitingChange } from "../orders/change-placed";
import { settleOrder } from "../orders/settle-order";
import { acceptAsked, dropAsked } from "../settling/hand-up";

/** What becomes of a paper by its signatures. */
interface SignedPaper {
  /** Everybody signed. */
  clear(db: Db, id: number, at: { now: string; day: Day }): void;
  /** It is a draft again, with the reason where it was sent back. */
  reopen(db: Db, id: number, why: string | null): void;
}

export const PAPERS: Record<Paper, SignedPaper> = {
  order: {
    clear(db, id, { now, day }) {
      const change = waitingChange(db, id);
      if (change !== null) {
        makeChange(db, change, { now, day });
        return;
      }
      sql(db, "UPDATE purchase_order SET cleared = ? WHERE id = ?").run(now, id);
      settleOrder(db, id as OrderId, "cleared"); // of the kind that the registry is asked for
    },
    reopen(db, id, why) {
      const change = waitingChange(db, id);
      if (change !== null) {
        // The order stands as it did.
        sql(db, "UPDATE order_change SET state = ? WHERE id = ?").run(why === null ? "given up" : "sent back", change);
        return;
      }
      sql(db, "UPDATE purchase_order SET sent_back = ? WHERE id = ?").run(why, id);
      settleOrder(db, id as OrderId, "draft"); // likewise
    },
  },
  agreement: {
    clear: (db, id, at) => bindAgreement(db, id, at),
    reopen(db, id, why) {
      sql(db, "UPDATE agreement SET state = 'Draft', sent_back = ? WHERE id = ?").run(why, id);
    },
  },
  invoice: {
    clear: (db, id, at) => acceptAsked(db, id, at),
    reopen: (db, id) => dropAsked(db, id),
  },
  requisition: {
    clear(db, id) {
      sql(db, "UPDATE requisition SET state = 'Open' WHERE id = ?").run(id);
    },
    reopen(db, id, why) {
      sql(db, "UPDATE requisition SET state = 'Draft', sent_back = ? WHERE id = ?").run(why, id);
    },
  },
};
