/** What may put a mark on an order by itself. */
export const MARK_EVENTS = ["placed", "confirmed", "part in", "overdue", "date passed"] as const;
export type MarkEvent = (typeof MARK_EVENTS)[number];
