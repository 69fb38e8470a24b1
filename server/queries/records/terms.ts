import type { SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** What a supplier asks of an order as a whole: minor units of its currency. */
export interface OrderTerms {
  minimum: number;
  freight: number;
  freeFrom: number | null;
  /** Why nothing may be ordered there; empty where it may. */
  blocked: string;
}

export const readTerms = (db: Db, supplier: SupplierId): OrderTerms =>
  sql<OrderTerms>(
    db,
    "SELECT order_minimum AS minimum, freight, freight_free_from AS freeFrom, blocked FROM supplier WHERE id = ?",
  ).get(supplier)!;
