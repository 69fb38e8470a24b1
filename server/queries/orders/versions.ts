import type { OrderId } from "../../../core/ids";
import { differencesOf, type LineDifference } from "../../../exchange/pdf/order-changes";
import type { OrderDocument } from "../../../exchange/pdf/order-document";
import { DocumentColumn, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { readOrderHead } from "./order";

/** A version of an order as it left the house. */
export interface OrderVersion {
  revision: number;
  at: string;
  person: string;
  /** Why we changed it; empty where the supplier's word did, and for the first. */
  reason: string;
}

/** Two versions of an order beside each other. */
export interface Compared {
  id: OrderId;
  name: string;
  supplier: string;
  versions: OrderVersion[];
  from: number;
  to: number;
  currency: string;
  before: Pick<OrderDocument, "net" | "total" | "required">;
  after: Pick<OrderDocument, "net" | "total" | "required">;
  differences: LineDifference[];
}

/** All versions of an order, and what differs between two of them; null where there is no such order, or it was not placed. */
export function compareVersions(db: Db, id: OrderId, from: number | null, to: number | null): Compared | null {
  const head = readOrderHead(db, id);
  const versions = sql<OrderVersion>(
    db,
    `SELECT v.revision, v.at, p.name AS person, coalesce(c.reason, '') AS reason FROM order_revision v JOIN person p ON p.id = v.person
     LEFT JOIN order_change c ON c.purchase_order = v.purchase_order AND c.revision = v.revision WHERE v.purchase_order = ? ORDER BY v.revision`,
  ).all(id);
  const last = versions.at(-1);
  if (!head || !last) return null;
  const known = (n: number | null, or: number) => (versions.some((v) => v.revision === n) ? n! : or);
  const b = known(to, last.revision);
  const a = known(from, Math.max(1, b - 1));
  const [before, after] = [documentOfVersion(db, id, a), documentOfVersion(db, id, b)];
  const shown = ({ net, total, required }: OrderDocument) => ({ net, total, required });
  return {
    id,
    name: head.name,
    supplier: head.supplierName,
    versions,
    from: a,
    to: b,
    currency: head.currency,
    before: shown(before),
    after: shown(after),
    differences: differencesOf(before, after),
  };
}

const documentOfVersion = (db: Db, id: OrderId, revision: number): OrderDocument =>
  readColumn(
    DocumentColumn,
    sql<{ document: string }>(db, "SELECT document FROM order_revision WHERE purchase_order = ? AND revision = ?").get(
      id,
      revision,
    )!.document,
  );
