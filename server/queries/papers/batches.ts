import type { OrderId, PersonId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { orderName } from "../orders/order";

export interface Batch {
  id: number;
  what: "print" | "mail" | "place";
  prices: boolean;
  site: string;
  person: PersonId;
  personName: string;
  at: string;
  stopped: string | null;
  ended: string | null;
  /** How many orders there are, were done, and were refused. */
  all: number;
  done: number;
  refused: number;
}

const BATCH = `SELECT b.id, b.what, b.prices, b.site, b.person, p.name AS personName, b.at, b.stopped, b.ended, count(*) AS "all",
  count(*) FILTER (WHERE o.state = 'done') AS done, count(*) FILTER (WHERE o.state = 'refused') AS refused
  FROM batch b JOIN person p ON p.id = b.person JOIN batch_order o ON o.batch = b.id`;

type Row = Omit<Batch, "prices"> & { prices: number };
const asBatch = (r: Row): Batch => ({ ...r, prices: r.prices === 1 });

export function readBatch(db: Db, id: number): Batch | null {
  const row = sql<Row>(db, `${BATCH} WHERE b.id = ? GROUP BY b.id`).get(id);
  return row ? asBatch(row) : null;
}

/** The batches of a person, the newest first. */
export const readBatches = (db: Db, person: PersonId): Batch[] =>
  sql<Row>(db, `${BATCH} WHERE b.person = ? GROUP BY b.id ORDER BY b.id DESC LIMIT 20`).all(person).map(asBatch);

export const openBatches = (db: Db): number[] =>
  sql<{ id: number }>(db, "SELECT id FROM batch WHERE ended IS NULL ORDER BY id")
    .all()
    .map((b) => b.id);

export interface BatchOrder {
  position: number;
  order: OrderId;
  name: string;
  supplier: string;
  state: "waiting" | "done" | "refused";
  says: string;
}

export const readBatchOrders = (db: Db, batch: number): BatchOrder[] =>
  sql<Omit<BatchOrder, "name"> & { number: string | null }>(
    db,
    `SELECT b.position, b.purchase_order AS "order", o.number, s.name AS supplier, b.state, b.says
     FROM batch_order b JOIN purchase_order o ON o.id = b.purchase_order JOIN supplier s ON s.id = o.supplier
     WHERE b.batch = ? ORDER BY b.position`,
  )
    .all(batch)
    .map(({ number, ...b }) => ({ ...b, name: orderName(b.order, number) }));
