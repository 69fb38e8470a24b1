import type { SupplierId } from "../../../core/ids";
import {
  LANGUAGE_CODES,
  type Language,
  type PaperKind,
  type PaperLayout,
  type PaperTexts,
  paperKind,
  USUAL_LAYOUT,
} from "../../../core/orders/papers";
import type { PaperLook } from "../../../exchange/pdf/order-document";
import type { Logo } from "../../../exchange/pdf/paper";
import { languageOf, usualTexts } from "../../../exchange/pdf/paper-words";
import { PaperColumns, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";

export function readLayout(db: Db, kind: PaperKind): PaperLayout {
  const row = sql<{ columns: string; prices: number }>(
    db,
    "SELECT columns, prices FROM paper_layout WHERE kind = ?",
  ).get(kind);
  return row ? { columns: readColumn(PaperColumns, row.columns), prices: row.prices === 1 } : USUAL_LAYOUT;
}

/** The texts of a kind of paper in a language; the usual ones where the company has kept none. */
export const readTexts = (db: Db, kind: PaperKind, language: Language): PaperTexts =>
  sql<PaperTexts>(
    db,
    "SELECT above, below, foot, subject, message FROM paper_text WHERE kind = ? AND language = ?",
  ).get(kind, language) ?? usualTexts(kind, language);

/** Which texts are the company's own, by kind and language. */
export const ownTexts = (db: Db): { kind: PaperKind; language: Language }[] =>
  sql<{ kind: PaperKind; language: Language }>(db, "SELECT kind, language FROM paper_text ORDER BY 1, 2").all();

/** The language in which a supplier is written to. */
export function languageTo(db: Db, supplier: SupplierId): Language {
  const { language } = sql<{ language: string }>(db, "SELECT language FROM supplier WHERE id = ?").get(supplier)!;
  return languageOr(db, language);
}

/** A supplier's language where they have one of ours, else the house's. */
export const languageOr = (db: Db, language: string): Language =>
  LANGUAGE_CODES.find((l) => l === language) ?? languageOf(theCompany(db).locale);

export const logoNow = (db: Db): number | null =>
  sql<{ logo: number | null }>(db, "SELECT logo FROM company").get()?.logo ?? null;

/** How a paper of a kind to a supplier looks now. */
export function lookFor(db: Db, kind: Parameters<typeof paperKind>[0], supplier: SupplierId): PaperLook {
  const paper = paperKind(kind);
  const language = languageTo(db, supplier);
  const { above, below, foot } = readTexts(db, paper, language);
  return { ...readLayout(db, paper), language, logo: logoNow(db), above, below, foot };
}

/** The logo that a paper bears; null where it bears none. */
export function readLogo(db: Db, id: number | null | undefined): Logo | null {
  return id ? (sql<Logo>(db, "SELECT type, bytes FROM logo WHERE id = ?").get(id) ?? null) : null;
}

export interface StandingText {
  id: number;
  kind: PaperKind | null;
  supplier: SupplierId | null;
  supplierName: string | null;
  /** For those alone who are written to in it; null: for all. */
  language: Language | null;
  text: string;
}

/** Texts that stand on orders, the general ones first. */
export const readStandingTexts = (db: Db): StandingText[] =>
  sql<StandingText>(
    db,
    `SELECT t.id, t.kind, t.supplier, s.name AS supplierName, t.language, t.text FROM standing_text t LEFT JOIN supplier s ON s.id = t.supplier
     ORDER BY t.supplier IS NOT NULL, s.name, t.kind IS NOT NULL, t.kind, t.language, t.id`,
  ).all();
