import { type Db, sql } from "../../db/open";
import type { Paper } from "../../queries/signoff/signings";
import { settleOrder } from "../orders/settle-order";

/** What can be signed, and what becomes of it: a new kind of paper is one entry. */
interface SignedPaper {
  /** What its writer is told, after its name. */
  cleared: string;
  /** Everybody signed. */
  clear(db: Db, id: number, now: string): void;
  /** It is a draft again, with the reason where it was sent back. */
  reopen(db: Db, id: number, why: string | null): void;
}

export const PAPERS: Record<Paper, SignedPaper> = {
  order: {
    cleared: "is cleared to be placed",
    clear(db, id, now) {
      sql(db, "UPDATE purchase_order SET cleared = ? WHERE id = ?").run(now, id);
      settleOrder(db, id, "cleared");
    },
    reopen(db, id, why) {
      sql(db, "UPDATE purchase_order SET sent_back = ? WHERE id = ?").run(why, id);
      settleOrder(db, id, "draft");
    },
  },
  requisition: {
    cleared: "is signed off",
    clear(db, id) {
      sql(db, "UPDATE requisition SET state = 'Open' WHERE id = ?").run(id);
    },
    reopen(db, id, why) {
      sql(db, "UPDATE requisition SET state = 'Draft', sent_back = ? WHERE id = ?").run(why, id);
    },
  },
};
