import type { Paper } from "../../../core/signoff/papers";
import { type Db, sql } from "../../db/open";

/** Where each kind of paper is kept: a signing names it in the column of the same name. */
export const PAPER_TABLE = {
  requisition: "requisition",
  order: "purchase_order",
  agreement: "agreement",
  invoice: "invoice",
} as const satisfies Record<Paper, string>;

/** The paper of a signing `g`, whatever kind it is, with what every list of papers shows. */
export const JOIN_PAPER = `
  LEFT JOIN purchase_order o ON o.id = g.purchase_order LEFT JOIN supplier s ON s.id = o.supplier
  LEFT JOIN requisition r ON r.id = g.requisition
  LEFT JOIN agreement a ON a.id = g.agreement LEFT JOIN supplier asu ON asu.id = a.supplier
  LEFT JOIN invoice v ON v.id = g.invoice LEFT JOIN supplier vsu ON vsu.id = v.supplier`;
export const WHICH_PAPER = `
  iif(o.id IS NOT NULL, 'order', iif(a.id IS NOT NULL, 'agreement', iif(v.id IS NOT NULL, 'invoice', 'requisition'))) AS paper, coalesce(o.id, a.id, v.id, r.id) AS paperId,
  coalesce(o.number, a.number, v.number, r.number) AS number`;
export interface PaperRow {
  paper: Paper;
  paperId: number;
  number: string | null;
}
/** Whom or what it is about, and the day on which it is wanted. */
export const PAPER_ABOUT =
  "coalesce(s.name, asu.name, vsu.name, r.reason) AS about, coalesce(o.required, a.starts, v.due, r.needed_by) AS required";

/** A paper's number and version as they are now. */
export const readPaper = (db: Db, paper: Paper, id: number): { number: string | null; version: number } | null =>
  sql<{ number: string | null; version: number }>(
    db,
    `SELECT number, version FROM ${PAPER_TABLE[paper]} WHERE id = ?`,
  ).get(id) ?? null;
