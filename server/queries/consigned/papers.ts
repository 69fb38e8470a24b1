import type { Day } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import { type PayTerms, payBy } from "../../../core/orders/terms";
import type { AgreementPaper, RefillPaper, StatementPaper } from "../../../exchange/pdf/consigned-paper";
import type { SelfBilled } from "../../../exchange/ubl/self-billed-invoice";
import { readColumn, StatementColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { languageOr } from "../papers/templates";
import { type AgreementHead, readAgreementHead, readAgreementItems } from "./agreement";
import { readRefill } from "./refills";

/** What all papers of an agreement have in common, in the supplier's language. */
export function ofAgreement(db: Db, a: AgreementHead, by: string) {
  const company = theCompany(db);
  const s = sql<{ address: string; language: string }>(db, "SELECT address, language FROM supplier WHERE id = ?").get(
    a.supplier,
  )!;
  return {
    company: { name: company.name, address: company.address },
    supplier: { name: a.supplierName, address: s.address },
    store: a.storeName,
    by,
    language: languageOr(db, s.language),
    locale: company.locale,
    currency: a.currency,
  };
}

/** What their goods are called by them, by item. */
const theirCodes = (db: Db, supplier: SupplierId): Map<number, string> =>
  new Map(
    sql<{ item: number; code: string }>(db, "SELECT item, their_code AS code FROM sourcing WHERE supplier = ?")
      .all(supplier)
      .map((r) => [r.item, r.code]),
  );

/** An agreement as it holds now, or as its draft stands; null where there is none. */
export function agreementPaper(db: Db, id: number, today: Day): AgreementPaper | null {
  const a = readAgreementHead(db, id);
  if (!a) return null;
  const codes = theirCodes(db, a.supplier);
  return {
    ...ofAgreement(db, a, a.writerName),
    kind: "agreement",
    number: a.number ?? "",
    day: a.signed?.slice(0, 10) ?? today,
    revision: Math.max(1, a.revision),
    starts: a.starts,
    ends: a.ends,
    oursAfter: a.oursAfter,
    first: a.first,
    settles: a.settles,
    bears: a.bears,
    note: a.note,
    items: readAgreementItems(db, id)
      .filter((i) => !i.gone)
      .map((i) => ({
        name: i.name,
        code: i.code,
        theirCode: codes.get(i.item) ?? "",
        unit: i.unitCode,
        least: i.least,
        most: i.most,
        prices: i.prices,
      })),
  };
}

/** A refill as it is asked for; null where there is none. */
export function refillPaper(db: Db, id: number): RefillPaper | null {
  const f = readRefill(db, id);
  if (!f) return null;
  const a = readAgreementHead(db, f.agreement)!;
  const codes = theirCodes(db, a.supplier);
  return {
    ...ofAgreement(db, a, f.person),
    kind: "refill",
    number: f.number,
    day: f.day,
    agreement: a.number ?? "",
    wanted: f.wanted,
    lines: f.lines.map((l) => ({
      name: l.name,
      code: l.code,
      theirCode: codes.get(l.item) ?? "",
      unit: l.unitCode,
      quantity: l.quantity,
    })),
  };
}

/** A use statement as it was made; null where there is none. */
export function statementPaper(db: Db, id: number): StatementPaper | null {
  const row = sql<{ document: string }>(db, "SELECT document FROM use_statement WHERE id = ?").get(id);
  return row ? readColumn(StatementColumn, row.document) : null;
}

/** How a supplier is paid. */
export const payTerms = (db: Db, supplier: SupplierId): PayTerms =>
  sql<PayTerms>(
    db,
    'SELECT terms_days AS days, terms_from AS "from", early_percent AS earlyPercent, early_days AS earlyDays FROM supplier WHERE id = ?',
  ).get(supplier)!;

/** A use statement as the invoice that we write for the supplier; null where there is none. */
export function selfBilled(db: Db, id: number): SelfBilled | null {
  const statement = statementPaper(db, id);
  const of = sql<{ supplier: SupplierId; day: Day }>(
    db,
    "SELECT a.supplier, coalesce(substr(s.agreed, 1, 10), s.day) AS day FROM use_statement s JOIN agreement a ON a.id = s.agreement WHERE s.id = ?",
  ).get(id);
  if (!statement || !of) return null;
  const company = theCompany(db);
  const s = sql<{ taxNumber: string }>(db, "SELECT tax_number AS taxNumber FROM supplier WHERE id = ?").get(
    of.supplier,
  )!;
  return {
    statement,
    supplier: { ...statement.supplier, country: "", taxNumber: s.taxNumber },
    customer: { ...statement.company, country: company.country, taxNumber: company.taxNumber },
    due: payBy(payTerms(db, of.supplier), of.day),
  };
}
