/** Papers of the stock: what moves goods within a store, out of it, or back. */
export const STOCK_PAPERS = [
  "stow",
  "move",
  "issue",
  "from job",
  "write-off",
  "count",
  "theirs out",
  "theirs lost",
  "theirs found",
] as const;
export type StockPaper = (typeof STOCK_PAPERS)[number];

export const STOCK_PAPER_WORDS: Record<StockPaper, string> = {
  stow: "Stowed",
  move: "Moved",
  issue: "Issued",
  "from job": "Given back by a job",
  "write-off": "Written off",
  count: "Counted",
  "theirs out": "Sent back to its owner",
  "theirs lost": "Lost of a supplier's",
  "theirs found": "Found of a supplier's",
};

/** Why goods are written off. */
export const WRITE_OFF_REASONS = ["broken", "spoilt or expired", "lost", "out of use", "given away"] as const;
