import type { OrderLineId } from "../../../core/ids";
import { orderedOf, receivedOfLine } from "../../../core/receiving/count";
import { isComplete } from "../../../core/receiving/tolerance";
import { type Db, sql } from "../../db/open";
import { readCountedLines } from "../../queries/receiving/counted-lines";
import { letOffRest, takeBackLetOff } from "../orders/keep-schedule";

/**
 * Lets the rest of these lines off where what came is enough within their tolerance, or misses it again where it is not.
 * What waits for somebody's decision may yet be the rest. Call after what was received changes, inside the act's transaction.
 */
export function settleLetOff(db: Db, lines: readonly OrderLineId[]): void {
  const waits = sql(db, "SELECT 1 FROM set_aside WHERE order_line = ? AND undecided > 0 AND ordered = 0");
  for (const [line, of] of readCountedLines(db, lines)) {
    const { underPercent, underQuantity } = of.tolerance;
    if (underPercent === null && underQuantity === null && of.letOff === 0) continue;
    takeBackLetOff(db, line);
    const ordered = orderedOf(of);
    const received = receivedOfLine(of);
    if (received > 0 && received < ordered && isComplete(of.tolerance, ordered, received) && !waits.get(line))
      letOffRest(db, line);
  }
}
