import { type Claimed, claimFor } from "../../../core/settling/claim";
import type { Hold } from "../../../core/settling/match";
import type { InvoiceSheet } from "./invoices";

/** What may be asked back of what is held; null where it is no matter of money, or nothing. */
export function claimableOf(
  sheet: InvoiceSheet,
  { position, reason }: Pick<Hold, "position" | "reason">,
): Claimed | null {
  const l = sheet.lines.find((x) => x.position === position);
  const o = l?.orderLine ? sheet.ordered.get(l.orderLine) : undefined;
  if (!l || !o) return null;
  const missing = sheet.holds.find((h) => h.position === position && h.reason === "quantity")?.beyond ?? 0;
  const asked = claimFor(l, o, reason, missing, sheet.head.currency);
  return asked && asked.net > 0 ? asked : null;
}
