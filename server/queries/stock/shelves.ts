import type { Day } from "../../../core/calendar/day";
import type { ItemId, StoreId, SupplierId } from "../../../core/ids";
import type { HeldByJob } from "../../../core/receiving/undo";
import { alongTheWalk, DOCK, type StowWhy } from "../../../core/stock/bins";
import { gtinForms, readScan } from "../../../exchange/gs1/scan";
import { type Db, sql } from "../../db/open";
import { usualBinOfTheirs } from "../consigned/their-bins";
import { escaped } from "../find";
import { heldByJobs } from "../receiving/undo";
import { binFor } from "./bins";

/** So many places are shown at once. */
const MOST = 500;

/** Goods in one bin, of one lot or of none. Stock units; no value. */
export interface Place {
  item: ItemId;
  code: string;
  name: string;
  gtin: string | null;
  unit: string;
  unitCode: string;
  bin: string;
  walk: number | null;
  lot: number | null;
  lotCode: string | null;
  expires: Day | null;
  held: string;
  quantity: number;
  /** The supplier whose goods they are; null: ours. */
  owner: SupplierId | null;
  ownerName: string | null;
}

const PLACE = `
  SELECT b.item, i.code, i.name, i.gtin, u.name AS unit, i.unit AS unitCode, b.bin, s.walk, nullif(b.lot, 0) AS lot, k.code AS lotCode, k.expires, coalesce(k.held, '') AS held, b.quantity, nullif(b.owner, 0) AS owner, o.name AS ownerName
  FROM stock_balance b JOIN item i ON i.id = b.item JOIN unit u ON u.code = i.unit
  LEFT JOIN store_bin s ON s.store = b.store AND s.code = b.bin LEFT JOIN lot k ON k.id = b.lot LEFT JOIN supplier o ON o.id = b.owner
  WHERE b.store = @store AND b.quantity <> 0`;

const walked = (places: Place[]): Place[] =>
  places.sort((a, b) => alongTheWalk({ code: a.bin, walk: a.walk }, { code: b.bin, walk: b.walk }));

/**
 * What lies in a store, as one walks by it; or what of it has a text in its bin, code, name or lot, or is meant by a scan.
 * `more`: there is more than is shown.
 */
export function readShelves(db: Db, store: StoreId, find: string): { places: Place[]; more: boolean } {
  const scanned = readScan(find);
  const gtins = scanned.ok && scanned.value.gtin ? gtinForms(scanned.value.gtin) : [];
  const lot = scanned.ok && scanned.value.gtin ? (scanned.value.serial ?? scanned.value.lot) : null;
  const found = sql<Place>(
    db,
    `${PLACE} AND (@find = '' OR b.bin = @exact COLLATE NOCASE OR i.code LIKE @find ESCAPE '\\' OR i.name LIKE @find ESCAPE '\\' OR k.code LIKE @find ESCAPE '\\' OR o.name LIKE @find ESCAPE '\\'
       OR i.gtin IN (SELECT value FROM json_each(@gtins)))
       AND (@lot IS NULL OR k.code = @lot)
     ORDER BY b.bin, i.code, b.owner, k.expires LIMIT ${MOST + 1}`,
  ).all({ store, exact: find, find: find === "" ? "" : `%${escaped(find)}%`, gtins: JSON.stringify(gtins), lot });
  return { places: walked(found.slice(0, MOST)), more: found.length > MOST };
}

/** Goods that lie on the dock, and where they go. */
export type Stowable = Place & { into: string; intoWalk: number | null; why: StowWhy };

/** The stow list of a store: what lies on its dock, in the order in which one walks by the bins it goes to; what has none last. */
export function readStowList(db: Db, store: StoreId): Stowable[] {
  const walk = sql<{ walk: number | null }>(db, "SELECT walk FROM store_bin WHERE store = ? AND code = ?");
  return sql<Place>(db, `${PLACE} AND b.bin = '' AND b.quantity > 0 ORDER BY i.code, k.expires LIMIT 2000`)
    .all({ store })
    .map((p) => {
      const { bin, why } =
        p.owner === null ? binFor(db, { item: p.item, store, lot: p.lot }) : theirBin(db, { ...p, store });
      return { ...p, into: bin, intoWalk: bin === "" ? null : (walk.get(store, bin)?.walk ?? null), why };
    })
    .sort(
      (a, b) =>
        Number(a.into === "") - Number(b.into === "") ||
        alongTheWalk({ code: a.into, walk: a.intoWalk }, { code: b.into, walk: b.intoWalk }),
    );
}

/** Where a supplier's goods go. */
function theirBin(
  db: Db,
  p: { item: ItemId; store: StoreId; lot: number | null; owner: SupplierId | null },
): { bin: string; why: StowWhy } {
  const bin = usualBinOfTheirs(db, { ...p, owner: p.owner! });
  return { bin, why: bin === DOCK ? "no bin yet" : "theirs go there" };
}

/** How much of a store's dock waits to be stowed: for the head of the dock's pages. */
export const toStow = (db: Db, store: StoreId | null): number =>
  sql<{ n: number }>(
    db,
    "SELECT count(*) AS n FROM stock_balance WHERE bin = '' AND quantity > 0 AND (@store IS NULL OR store = @store) AND EXISTS (SELECT 1 FROM store_bin b WHERE b.store = stock_balance.store)",
  ).get({ store })!.n;

/** What can be done with goods of a place: what jobs hold of the item, and which jobs had it. */
export interface AroundPlace {
  onHand: number;
  held: HeldByJob[];
  /** Jobs that want the item, with what they still want of it. */
  wanted: { job: number; name: string; open: number }[];
  /** Jobs that it was issued to from this store and lot, with what they have of it. */
  issued: { job: number; name: string; quantity: number }[];
}

export function aroundPlace(db: Db, of: { item: ItemId; store: StoreId; lot: number | null }): AroundPlace {
  const { onHand } = sql<{ onHand: number }>(
    db,
    "SELECT on_hand AS onHand FROM item_store WHERE item = ? AND store = ?",
  ).get(of.item, of.store) ?? { onHand: 0 };
  return {
    onHand,
    held: heldByJobs(db, of.item, of.store, null),
    wanted: sql<{ job: number; name: string; open: number }>(
      db,
      `SELECT j.id AS job, j.kind || ' ' || j.code || iif(j.vessel = '', '', ' ' || j.vessel) AS name, sum(d.quantity - d.issued) AS open
       FROM job_demand d JOIN job j ON j.id = d.job WHERE d.item = ? AND d.issued < d.quantity AND j.closed IS NULL GROUP BY j.id ORDER BY min(d.due)`,
    ).all(of.item),
    issued: sql<{ job: number; name: string; quantity: number }>(
      db,
      `SELECT j.id AS job, j.kind || ' ' || j.code || iif(j.vessel = '', '', ' ' || j.vessel) AS name, -sum(m.quantity) AS quantity
       FROM movement m JOIN job j ON j.id = m.job WHERE m.item = @item AND m.store = @store AND m.lot IS @lot AND m.kind = 'issue' GROUP BY j.id HAVING sum(m.quantity) < 0 ORDER BY j.code`,
    ).all({ item: of.item, store: of.store, lot: of.lot }),
  };
}
