import type { Day } from "../../../core/calendar/day";
import type { ItemId, PersonId, StoreId, SupplierId } from "../../../core/ids";
import type { UnitPrice } from "../../../core/numbers/money";
import { alongTheWalk } from "../../../core/stock/bins";
import { type CountedPlace, type CountState, differenceOf } from "../../../core/stock/stock-count";
import { valueFound, valueOut } from "../../../core/stock/value";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";

export interface StockCountHead {
  id: number;
  number: string;
  store: StoreId;
  storeName: string;
  what: string;
  blind: number;
  state: CountState;
  day: Day;
  person: string;
  paper: number | null;
  paperNumber: string | null;
  judge: string | null;
  version: number;
  lines: number;
  counted: number;
  differ: number;
}

const HEADS = `
  SELECT c.id, c.number, c.store, s.name AS storeName, c.what, c.blind, c.state, c.day, p.name AS person, c.paper, m.number AS paperNumber, j.name AS judge, c.version,
         (SELECT count(*) FROM stock_count_line l WHERE l.stock_count = c.id) AS lines,
         (SELECT count(l.counted) FROM stock_count_line l WHERE l.stock_count = c.id) AS counted,
         (SELECT count(*) FROM stock_count_line l WHERE l.stock_count = c.id AND l.counted <> l.lay) AS differ
  FROM stock_count c JOIN store s ON s.id = c.store JOIN person p ON p.id = c.person LEFT JOIN stock_paper m ON m.id = c.paper LEFT JOIN person j ON j.id = c.judge`;

/** Counts of the stock, those that are open first; of one store, or of all. */
export const readStockCounts = (db: Db, store: StoreId | null): StockCountHead[] =>
  sql<StockCountHead>(
    db,
    `${HEADS} WHERE (@store IS NULL OR c.store = @store) ORDER BY c.state NOT IN ('Open', 'Counted'), c.id DESC LIMIT 500`,
  ).all({ store });

/** A line of a count as the books know it. */
export interface PlaceRow extends CountedPlace {
  id: number;
  item: ItemId;
  code: string;
  name: string;
  gtin: string | null;
  unit: string;
  bin: string;
  walk: number | null;
  lot: number | null;
  lotCode: string | null;
  /** The supplier whose goods are counted; null: ours. */
  owner: SupplierId | null;
  ownerName: string | null;
  expires: Day | null;
  found: number;
  person: PersonId | null;
  by: string | null;
  reason: string;
  booked: number | null;
}

/** All lines of a count, as one walks by them. */
export const readPlaces = (db: Db, count: number): PlaceRow[] =>
  sql<PlaceRow>(
    db,
    `SELECT l.id, l.item, i.code, i.name, i.gtin, u.name AS unit, l.bin, b.walk, l.lot, k.code AS lotCode, l.owner, o.name AS ownerName, k.expires, l.found, l.expected, l.counted, l.lay, l.person, p.name AS by,
            l.verdict, l.reason, l.booked
     FROM stock_count_line l JOIN stock_count c ON c.id = l.stock_count JOIN item i ON i.id = l.item JOIN unit u ON u.code = i.unit
     LEFT JOIN supplier o ON o.id = l.owner LEFT JOIN lot k ON k.id = l.lot LEFT JOIN person p ON p.id = l.person LEFT JOIN store_bin b ON b.store = c.store AND b.code = l.bin
     WHERE l.stock_count = ? ORDER BY i.code, k.expires, l.id`,
  )
    .all(count)
    .sort((a, b) => alongTheWalk({ code: a.bin, walk: a.walk }, { code: b.bin, walk: b.walk }));

/** A line as a person may see it. */
export interface PlaceSeen {
  id: number;
  item: ItemId;
  code: string;
  name: string;
  gtin: string | null;
  unit: string;
  bin: string;
  lot: string | null;
  /** Whose goods, where they are a supplier's. */
  owner: string | null;
  expires: Day | null;
  found: boolean;
  counted: number | null;
  by: string | null;
  mine: boolean;
  verdict: CountedPlace["verdict"];
  reason: string;
  /** What the books say; null where this person counts blind. */
  books: { expected: number; lay: number | null } | null;
  booked: number | null;
  /** What the difference is worth, in home currency; null where this person sees no values. */
  value: number | null;
}

export interface StockCountSeen {
  head: StockCountHead;
  lines: PlaceSeen[];
}

/** A count with its lines, as far as a person may see them. Blind, the books are not shown before a line is counted. */
export function readStockCount(
  db: Db,
  id: number,
  by: { person: PersonId; judges: boolean; values: boolean },
): StockCountSeen | null {
  const head = sql<StockCountHead>(db, `${HEADS} WHERE c.id = ?`).get(id);
  if (!head) return null;
  const over = head.state === "Booked" || head.state === "Dropped";
  return {
    head,
    lines: readPlaces(db, id).map((l): PlaceSeen => {
      const open = over || head.blind === 0 || (by.judges && l.counted !== null);
      return {
        id: l.id,
        item: l.item,
        code: l.code,
        name: l.name,
        gtin: l.gtin,
        unit: l.unit,
        bin: l.bin,
        lot: l.lotCode,
        owner: l.ownerName,
        expires: l.expires,
        found: l.found === 1,
        counted: l.counted,
        by: l.by,
        mine: l.person === by.person,
        verdict: l.verdict,
        reason: l.reason,
        books: open ? { expected: l.expected, lay: l.lay } : null,
        booked: l.booked,
        value: by.values && open && l.owner === null ? worthOf(db, head.store, l) : null,
      };
    }),
  };
}

/** What a difference is worth as things stand: what is missing takes its part of the value, what is found has as much for each. */
function worthOf(db: Db, store: StoreId, l: PlaceRow): number | null {
  const difference = differenceOf(l);
  if (!difference) return null;
  const of = sql<{ quantity: number; value: number; reference: UnitPrice | null }>(
    db,
    "SELECT p.on_hand AS quantity, p.value, i.reference_cost AS reference FROM item_store p JOIN item i ON i.id = p.item WHERE p.item = ? AND p.store = ?",
  ).get(l.item, store);
  const held = { quantity: of?.quantity ?? 0, value: of?.value ?? 0 };
  return difference < 0
    ? -valueOut(held, Math.min(-difference, held.quantity))
    : valueFound(held, difference, of?.reference ?? null, theCompany(db).currency);
}
