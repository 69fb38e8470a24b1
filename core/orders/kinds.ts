/** What an order may be (product.md, step 3). */
export const ORDER_KINDS = ["one-off", "blanket", "call-off", "direct", "standing"] as const;
export type OrderKind = (typeof ORDER_KINDS)[number];

export const KIND_WORDS: Record<OrderKind, string> = {
  "one-off": "order",
  blanket: "blanket order",
  "call-off": "call-off",
  direct: "direct delivery",
  standing: "standing list",
};

/** Goods of these are on their way to us; a blanket order only promises a price, a standing list only remembers. */
export const brings = (kind: OrderKind) => kind !== "blanket" && kind !== "standing";

/** Lines go freely between these: they come to a store, and nobody agreed on them for longer. */
export const isPlain = (kind: OrderKind) => kind === "one-off" || kind === "call-off";

export const LINE_KINDS = ["stocked", "not stocked", "service", "charge"] as const;
export type LineKind = (typeof LINE_KINDS)[number];

export const SPREADS = ["value", "weight", "expense"] as const;
export type Spread = (typeof SPREADS)[number];

export const LIMITS = ["quantity", "value", "both"] as const;
export type Limit = (typeof LIMITS)[number];
