import type { Day } from "../../../core/calendar/day";
import { showDay } from "../../../core/numbers/format";
import { factorOf, ONE, purchase, toStock } from "../../../core/numbers/quantity";
import { freshness, freshnessWords, type LotRule } from "../../../core/receiving/lot";
import { type Db, sql } from "../../db/open";
import type { OrderLine } from "../../queries/orders/order";

interface LotPart {
  counted: number;
  faulty: number;
  lot: string;
  expires: Day | null;
}

/** What is wrong with the lot of a count, each at its field: what expired is not taken, and a serial number comes once. */
export function lotProblems(
  db: Db,
  today: Day,
  line: OrderLine,
  rule: LotRule,
  p: LotPart,
): ["lot" | "expires" | "counted", string][] {
  if (p.counted + p.faulty === 0) return [];
  const known = p.lot
    ? sql<{ id: number; expires: Day | null; came: number }>(
        db,
        "SELECT id, expires, EXISTS (SELECT 1 FROM movement m WHERE m.lot = lot.id) AS came FROM lot WHERE item = ? AND code = ?",
      ).get(line.item, p.lot)
    : undefined;
  const found: ["lot" | "expires" | "counted", string][] = [];
  if (rule.bySerial) {
    if (!p.lot) found.push(["lot", "Each piece has its serial number: scan or type it."]);
    else if (toStock(purchase(p.counted + p.faulty), factorOf(line.factor)) !== ONE)
      found.push(["counted", `Serial number ${p.lot} is one piece.`]);
    else if (known?.came === 1) found.push(["lot", `Serial number ${p.lot} is in the books already.`]);
  }
  if (known?.expires && p.expires && known.expires !== p.expires)
    found.push(["expires", `Lot ${p.lot} is known to keep until ${showDay(known.expires, today)}.`]);
  const expires = p.expires ?? known?.expires ?? null;
  if (p.counted > 0 && freshness(rule, expires, today) === "expired")
    found.push(["expires", `It ${freshnessWords(rule, expires, today)}: count it as spoilt or expired.`]);
  return found;
}
