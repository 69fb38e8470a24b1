import type { ItemId } from "../../../core/ids";
import type { Factor } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";

/** A unit in which an item can be named, with the stock units in one of it. */
export interface UnitOf {
  name: string;
  code: string;
  factor: Factor;
}

/** Items that a code means: ours, a GTIN, or a supplier's own. More than one where suppliers use the same code. */
export function itemsOfCode(db: Db, code: string): { id: number; code: string; name: string }[] {
  const own = sql<{ id: ItemId; code: string; name: string }>(
    db,
    "SELECT id, code, name FROM item WHERE (code = @code OR gtin = @code) AND active = 1",
  ).all({ code });
  if (own.length) return own;
  return sql<{ id: number; code: string; name: string }>(
    db,
    `SELECT DISTINCT i.id, i.code, i.name FROM sourcing c JOIN item i ON i.id = c.item
     WHERE c.their_code = ? COLLATE NOCASE AND c.their_code <> '' AND c.active = 1 AND i.active = 1 ORDER BY i.code`,
  ).all(code);
}

/**
 * Which of several units of one name somebody means: the stock unit, else the one in which the preferred supplier sells it;
 * undefined where only other suppliers do, and differently.
 */
export function unitMeant(db: Db, item: ItemId, named: readonly UnitOf[]): UnitOf | undefined {
  if (named.length < 2 || named[0]!.factor === 10_000) return named[0];
  const preferred = sql<{ factor: number }>(
    db,
    `SELECT c.factor FROM sourcing c JOIN supplier s ON s.id = c.supplier
     WHERE c.item = ? AND c.active = 1 AND s.active = 1 AND s.blocked = '' AND c.unit = ? AND c.id = (
       SELECT x.id FROM sourcing x JOIN supplier y ON y.id = x.supplier WHERE x.item = c.item AND x.active = 1 AND y.active = 1 AND y.blocked = '' ORDER BY x.rank, x.id LIMIT 1)`,
  ).get(item, named[0]!.code);
  return named.find((u) => u.factor === preferred?.factor);
}

/** Its stock unit first, then every unit that somebody sells it in. */
export const unitsOf = (db: Db, item: ItemId): UnitOf[] =>
  sql<UnitOf>(
    db,
    `SELECT u.name, u.code, 10000 AS factor FROM item i JOIN unit u ON u.code = i.unit WHERE i.id = @item
     UNION SELECT u.name, u.code, c.factor FROM sourcing c JOIN unit u ON u.code = c.unit
       WHERE c.item = @item AND c.active = 1 AND NOT (c.factor = 10000 AND c.unit = (SELECT unit FROM item WHERE id = @item))
     ORDER BY factor`,
  )
    .all({ item })
    .sort((a, b) => Number(b.factor === 10_000) - Number(a.factor === 10_000));
