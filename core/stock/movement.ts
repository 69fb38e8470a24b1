/** Why goods move: a movement has one of these kinds. */
export const MOVEMENT_KINDS = [
  "opening",
  "receipt",
  "issue",
  "return",
  "count",
  "transfer",
  "output",
  "undo",
  "stow",
  "write-off",
  "consigned",
] as const;
export type MovementKind = (typeof MOVEMENT_KINDS)[number];
