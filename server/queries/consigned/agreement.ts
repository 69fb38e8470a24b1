import type { Day } from "../../../core/calendar/day";
import {
  type AgreementState,
  type Bears,
  type DatedPrice,
  type First,
  notOn,
  priceOn,
  type Settles,
  type TheirPlace,
} from "../../../core/consigned/agreement";
import type { Layer } from "../../../core/consigned/layers";
import { agreementDifferences } from "../../../core/consigned/versions";
import type { ItemId, PersonId, StoreId, SupplierId } from "../../../core/ids";
import { showDay } from "../../../core/numbers/format";
import type { UnitPrice } from "../../../core/numbers/money";
import { DOCK, withinBins } from "../../../core/stock/bins";
import { AgreementColumn, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { storeName } from "../choices";

/** An agreement about a supplier's goods in a store. */
export interface AgreementHead {
  id: number;
  number: string | null;
  /** "Agreement A26-1001", "Draft 4". */
  name: string;
  changes: number | null;
  supplier: SupplierId;
  supplierName: string;
  store: StoreId;
  storeName: string;
  currency: string;
  writer: PersonId;
  writerName: string;
  state: AgreementState;
  starts: Day;
  ends: Day;
  oursAfter: number | null;
  first: First;
  settles: Settles;
  bears: Bears;
  place: TheirPlace;
  binsFrom: string;
  binsTo: string;
  note: string;
  version: number;
  submitted: string | null;
  signed: string | null;
  sentBack: string | null;
  revision: number;
  ended: Day | null;
  endedWhy: string;
}

export interface AgreementItem {
  id: number;
  item: ItemId;
  code: string;
  name: string;
  unit: string;
  unitCode: string;
  byLot: boolean;
  least: number;
  most: number;
  pack: number;
  refillDays: number;
  gone: boolean;
  prices: DatedPrice[];
}

const HEAD = `
  SELECT a.id, a.number, iif(a.number IS NULL, 'Draft ' || a.id, 'Agreement ' || a.number) AS name, a.changes, a.supplier, s.name AS supplierName, a.store, t.name AS storeName,
         a.currency, a.writer, p.name AS writerName, a.state, a.starts, a.ends, a.ours_after AS oursAfter, a.first, a.settles, a.bears, a.place, a.bins_from AS binsFrom,
         a.bins_to AS binsTo, a.note, a.version, a.submitted, a.signed, a.sent_back AS sentBack, a.revision, a.ended, a.ended_why AS endedWhy
  FROM agreement a JOIN supplier s ON s.id = a.supplier JOIN store t ON t.id = a.store JOIN person p ON p.id = a.writer`;

export const readAgreementHead = (db: Db, id: number): AgreementHead | null =>
  sql<AgreementHead>(db, `${HEAD} WHERE a.id = ?`).get(id) ?? null;

type ItemRow = Omit<AgreementItem, "prices" | "gone" | "byLot"> & { gone: number; byLot: number };

/** The items of an agreement, by code, each with its prices, the first first. */
export function readAgreementItems(db: Db, agreement: number): AgreementItem[] {
  const prices = new Map<number, DatedPrice[]>();
  for (const p of sql<{ of: number; day: Day; price: UnitPrice }>(
    db,
    `SELECT p.agreement_item AS "of", p.day, p.price FROM agreement_item x JOIN agreement_price p ON p.agreement_item = x.id WHERE x.agreement = ? ORDER BY p.day`,
  ).all(agreement))
    prices.set(p.of, [...(prices.get(p.of) ?? []), { day: p.day, price: p.price }]);
  return sql<ItemRow>(
    db,
    `SELECT x.id, x.item, i.code, i.name, u.name AS unit, i.unit AS unitCode, i.by_lot OR i.by_serial AS byLot, x.least, x.most, x.pack, x.refill_days AS refillDays, x.gone
     FROM agreement_item x JOIN item i ON i.id = x.item JOIN unit u ON u.code = i.unit WHERE x.agreement = ? ORDER BY i.code`,
  )
    .all(agreement)
    .map(({ gone, byLot, ...x }) => ({ ...x, byLot: byLot === 1, gone: gone === 1, prices: prices.get(x.id) ?? [] }));
}

/** All agreements, drafts first, then those that run, by their supplier. */
export const readAgreements = (db: Db, supplier: SupplierId | null = null): (AgreementHead & { items: number })[] =>
  sql<AgreementHead & { items: number }>(
    db,
    `SELECT h.*, (SELECT count(*) FROM agreement_item x WHERE x.agreement = h.id AND x.gone = 0) AS items FROM (${HEAD}) h
     WHERE h.state <> 'Taken in' AND (@supplier IS NULL OR h.supplier = @supplier)
     ORDER BY CASE h.state WHEN 'Draft' THEN 0 WHEN 'In sign-off' THEN 1 WHEN 'Running' THEN 2 ELSE 3 END, h.supplierName, h.id DESC LIMIT 500`,
  ).all({ supplier });

/** An item of an agreement that binds, as a use or a registering looks at it. */
export interface BoundItem {
  id: number;
  item: ItemId;
  agreement: AgreementHead;
  least: number;
  most: number;
  pack: number;
  refillDays: number;
  gone: boolean;
}

type BoundRow = AgreementHead & {
  itemId: number;
  item: ItemId;
  least: number;
  most: number;
  pack: number;
  refillDays: number;
  gone: number;
};
const BOUND = `
  SELECT x.id AS itemId, x.item, x.least, x.most, x.pack, x.refill_days AS refillDays, x.gone, h.*
  FROM agreement_item x JOIN (${HEAD}) h ON h.id = x.agreement WHERE h.revision > 0`;

const bound = ({ itemId: id, item, least, most, pack, refillDays, gone, ...agreement }: BoundRow): BoundItem => ({
  id,
  item,
  least,
  most,
  pack,
  refillDays,
  gone: gone === 1,
  agreement,
});

/** The agreements under which goods of an item lie, or may lie, in a store; that of a supplier alone where one is named. */
export const boundItems = (db: Db, item: ItemId, store: StoreId, supplier: SupplierId | null = null): BoundItem[] =>
  sql<BoundRow>(
    db,
    `${BOUND} AND x.item = @item AND h.store = @store AND (@supplier IS NULL OR h.supplier = @supplier) ORDER BY h.starts DESC, h.id DESC`,
  )
    .all({ item, store, supplier })
    .map(bound);

export const boundItem = (db: Db, id: number): BoundItem | null => {
  const row = sql<BoundRow>(db, `${BOUND} AND x.id = ?`).get(id);
  return row ? bound(row) : null;
};

/** Why nothing is done under an agreement on a day; null where it may be. */
export const notOnDay = (a: AgreementHead, day: Day): string | null => notOn(a, day, (d) => showDay(d, day));

/** What is agreed for an item on a day, per stock unit; null where no price had begun. */
export const agreedPrice = (db: Db, agreementItem: number, day: Day): UnitPrice | null =>
  priceOn(
    sql<DatedPrice>(db, "SELECT day, price FROM agreement_price WHERE agreement_item = ?").all(agreementItem),
    day,
  );

/** Their stock of an item under an agreement, by age; what is held or expired only where asked for. */
export const layersOf = (
  db: Db,
  agreementItem: number,
  day: Day | string,
  { usable, lot }: { usable: boolean; lot?: number | null },
): Layer[] =>
  sql<Layer>(
    db,
    `SELECT y.id, y.day, y.lot, y.rest AS "left", y.ours_on AS oursOn FROM consigned_layer y LEFT JOIN lot l ON l.id = y.lot
     WHERE y.agreement_item = @agreementItem AND y.rest > 0 AND (@usable = 0 OR y.lot IS NULL OR (l.held = '' AND coalesce(l.expires, '9') >= @day))
       AND (@any OR y.lot IS @lot)
     ORDER BY y.day, y.id`,
  ).all({ agreementItem, day, usable: usable ? 1 : 0, any: lot === undefined ? 1 : 0, lot: lot ?? null });

/** What of a store is for a supplier's goods alone, by an agreement that runs: bins of a range, or all of it. */
export interface KeptPlace {
  supplier: SupplierId;
  name: string;
  place: TheirPlace;
  from: string;
  to: string;
}

export const keptFor = (db: Db, store: StoreId): KeptPlace[] =>
  sql<KeptPlace>(
    db,
    `SELECT a.supplier, s.name, a.place, a.bins_from AS "from", a.bins_to AS "to" FROM agreement a JOIN supplier s ON s.id = a.supplier
     WHERE a.store = ? AND a.state = 'Running' AND a.place <> ''`,
  ).all(store);

/** Why goods of an owner (null: ours) are not put into a bin, by what is agreed with others; null where they may be. */
export function keptForOthers(db: Db, store: StoreId, bin: string, owner: SupplierId | null): string | null {
  const of = keptFor(db, store).filter((k) => k.place === "store" || (bin !== DOCK && withinBins(bin, k.from, k.to)));
  if (of.length === 0 || of.some((k) => k.supplier === owner)) return null;
  const names = [...new Set(of.map((k) => k.name))].join(" and ");
  return of[0]!.place === "store"
    ? `${storeName(db, store)} is for goods of ${names} alone.`
    : `Bin ${bin} is for goods of ${names} alone.`;
}

/** The versions of an agreement that held, the last first, each with what it changed, in words. */
export function versionsOf(db: Db, id: number): { revision: number; at: string; changed: string[] }[] {
  const rows = sql<{ revision: number; at: string; document: string }>(
    db,
    "SELECT revision, at, document FROM agreement_revision WHERE agreement = ? ORDER BY revision",
  ).all(id);
  const documents = rows.map((r) => readColumn(AgreementColumn, r.document));
  return rows
    .map(({ revision, at }, i) => ({
      revision,
      at,
      changed: i === 0 ? [] : agreementDifferences(documents[i - 1]!, documents[i]!),
    }))
    .reverse();
}
