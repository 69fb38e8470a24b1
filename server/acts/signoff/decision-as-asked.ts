import type { Day } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import type { Paper } from "../../../core/signoff/papers";
import type { Db } from "../../db/open";
import { type Decision, readDecision } from "../../queries/signoff/decision";
import { withItsChange } from "../orders/change-placed";

/** What an approver needs to decide: of an order whose change waits, the order as it would be with the change. */
export const decisionAsAsked = (db: Db, paper: Paper, id: number, today: Day, hour: number): Decision | null =>
  paper === "order"
    ? withItsChange(db, id as OrderId /* as the paper says */, today, () => readDecision(db, paper, id, today, hour))
    : readDecision(db, paper, id, today, hour);
