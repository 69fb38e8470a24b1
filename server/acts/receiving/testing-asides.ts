import { sql } from "../../db/open";
import type { TestHouse } from "../../testing";
import type { Desk, Done } from "../desk";
import { keepAside, scrapAside, sendBackAside } from "./decide-aside";

const ACTS: Record<"keep" | "send back" | "scrap", (desk: Desk, raw: unknown) => Done<unknown>> = {
  keep: keepAside,
  "send back": sendBackAside,
  scrap: scrapAside,
};

/** What is set aside and undecided, in purchase units. */
export const waitingAsides = (h: TestHouse) =>
  sql<{ why: string; ordered: number; undecided: number }>(
    h.db,
    "SELECT why, ordered, undecided / 10000 AS undecided FROM set_aside WHERE undecided > 0 ORDER BY id",
  ).all();

/** Decides about the first that waits: all of it, or so much. */
export function decideAsides(
  h: TestHouse,
  what: keyof typeof ACTS,
  { quantity = "", seen, ...more }: { quantity?: string; seen?: number; [field: string]: unknown } = {},
  who = "ines",
) {
  const first = sql<{ id: number; undecided: number }>(
    h.db,
    "SELECT id, undecided FROM set_aside WHERE undecided > 0 ORDER BY id LIMIT 1",
  ).get()!;
  return ACTS[what](h.desk(who), { rows: [{ aside: first.id, seen: seen ?? first.undecided, quantity }], ...more });
}
