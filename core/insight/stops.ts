/** The moments of one order as it went through the stops; null: not reached yet. ISO 8601. */
export interface OrderMoments {
  written: string;
  submitted: string | null;
  cleared: string | null;
  placed: string | null;
  /** Their first word. */
  answered: string | null;
  /** The first goods. */
  came: string | null;
  /** The first invoice that matched. */
  billed: string | null;
}

/** What takes time on the way of an order: from one moment to another. */
export const WAITS = ["writing", "sign-off", "sending", "answer", "delivery", "invoice"] as const;
export type StopWait = (typeof WAITS)[number];
const ENDS: Record<StopWait, [from: keyof OrderMoments, to: keyof OrderMoments]> = {
  writing: ["written", "submitted"],
  "sign-off": ["submitted", "cleared"],
  sending: ["cleared", "placed"],
  answer: ["placed", "answered"],
  delivery: ["placed", "came"],
  invoice: ["came", "billed"],
};

/** Minutes that an order took; null where one of both moments has not come. What came before it was waited for took none. */
export function waited(o: OrderMoments, wait: StopWait): number | null {
  const [from, to] = ENDS[wait].map((m) => o[m]);
  if (!from || !to) return null;
  return Math.max(0, Math.round((Date.parse(to) - Date.parse(from)) / 60_000));
}

/** How long a wait took over some orders, in minutes. */
export interface WaitFigures {
  count: number;
  /** All of them together. */
  sum: number;
  /** Nine of ten took no longer (nearest rank). */
  ninetieth: number;
}
export function waitFigures(orders: readonly OrderMoments[], wait: StopWait): WaitFigures | null {
  const minutes = orders
    .map((o) => waited(o, wait))
    .filter((m) => m !== null)
    .sort((a, b) => a - b);
  if (minutes.length === 0) return null;
  return {
    count: minutes.length,
    sum: minutes.reduce((a, m) => a + m, 0),
    ninetieth: minutes[Math.ceil(minutes.length * 0.9) - 1]!,
  };
}
