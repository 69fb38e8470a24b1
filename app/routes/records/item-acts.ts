import { dropAlternative, keepAlternative, keepItem, keepReordering } from "../../../server/acts/records/keep-item";
import { dropSourcing, keepSourcing } from "../../../server/acts/records/keep-sourcing";
import type { PageActs } from "../../web/page";
import { readJson } from "../../web/page";

/** What an item's page does; `item` is the one of the address. */
export const itemActs = {
  "keep item": keepItem,
  "keep reordering": keepReordering,
  "keep sourcing": (desk, input) => keepSourcing(desk, { ...input, breaks: readJson(input.breaks) ?? [] }),
  "drop sourcing": dropSourcing,
  "keep alternative": keepAlternative,
  "drop alternative": dropAlternative,
} satisfies PageActs;
export type ItemWord = keyof typeof itemActs;
