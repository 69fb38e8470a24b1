import type { OrderSheet } from "../../../server/queries/orders/order";

/** Whom an order serves, in a few words. */
export function serves(sheet: Pick<OrderSheet, "lines">): string {
  const askers = [...new Set(sheet.lines.flatMap((l) => l.serves.map((s) => s.asker)).filter((a) => a !== null))];
  const jobs = [...new Set(sheet.lines.flatMap((l) => l.serves.map((s) => s.jobName)).filter((j) => j !== null))];
  const stock = sheet.lines.some((l) => l.serves.some((s) => s.source === "reorder" || s.source === "noted"));
  return [...askers, ...jobs, stock ? "stock" : ""].filter(Boolean).join(", ") || "–";
}
