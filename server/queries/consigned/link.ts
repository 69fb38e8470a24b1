import type { Day } from "../../../core/calendar/day";
import type { Language } from "../../../core/orders/papers";
import { localeOf } from "../../../exchange/pdf/paper-words";
import { type Db, sql } from "../../db/open";
import { linkHash } from "../quotes/quotes";
import { type AgreementHead, readAgreementHead } from "./agreement";
import { ofAgreement } from "./papers";
import { readRefill, readRefills } from "./refills";
import { readStatements, type StatementHead } from "./statements";

/** What a supplier sees of their goods on our shelves, by their private link. It holds no value but what we settle with them. */
export interface TheirShelf {
  agreement: Pick<AgreementHead, "id" | "number" | "supplierName" | "storeName" | "currency" | "oursAfter">;
  company: string;
  language: Language;
  locale: string;
  items: { code: string; theirCode: string; name: string; unit: string; here: number; least: number; most: number }[];
  refills: {
    id: number;
    number: string;
    version: number;
    wanted: Day;
    promised: Day | null;
    said: string;
    lines: { name: string; unit: string; quantity: number; came: number }[];
  }[];
  longer: { id: number; name: string; unit: string; quantity: number; days: number; oursOn: Day }[];
  statements: Pick<
    StatementHead,
    "id" | "number" | "version" | "since" | "until" | "net" | "tax" | "total" | "state" | "said" | "agreedBy" | "due"
  >[];
}

/** Whose agreement a link is about; a sentence where it was ended, null where it never was one. */
export function agreementOfLink(db: Db, link: string): number | { says: string } | null {
  const row = sql<{ agreement: number; ended: string | null }>(
    db,
    "SELECT agreement, ended FROM agreement_link WHERE link = ?",
  ).get(linkHash(link));
  if (!row) return null;
  return row.ended === null ? row.agreement : { says: "Whoever sent it to you has ended it. Ask them for another." };
}

/** What their link leads to. */
export function readTheirShelf(db: Db, id: number): TheirShelf {
  const a = readAgreementHead(db, id)!;
  const { company, language, locale } = ofAgreement(db, a, "");
  return {
    company: company.name,
    language,
    locale: localeOf(language, locale),
    agreement: {
      id: a.id,
      number: a.number,
      supplierName: a.supplierName,
      storeName: a.storeName,
      currency: a.currency,
      oursAfter: a.oursAfter,
    },
    items: sql<TheirShelf["items"][number]>(
      db,
      `SELECT i.code, coalesce(c.their_code, '') AS theirCode, i.name, u.name AS unit, coalesce((SELECT sum(y.rest) FROM consigned_layer y WHERE y.agreement_item = x.id), 0) AS here, x.least, x.most
       FROM agreement_item x JOIN item i ON i.id = x.item JOIN unit u ON u.code = i.unit LEFT JOIN sourcing c ON c.item = x.item AND c.supplier = ?
       WHERE x.agreement = ? AND x.gone = 0 ORDER BY i.code`,
    ).all(a.supplier, id),
    refills: readRefills(db, { agreement: id, open: true }).map((f) => ({
      id: f.id,
      number: f.number,
      version: f.version,
      wanted: f.wanted,
      promised: f.promised,
      said: f.said,
      lines: readRefill(db, f.id)!.lines.map(({ name, unit, quantity, came }) => ({ name, unit, quantity, came })),
    })),
    longer: sql<TheirShelf["longer"][number]>(
      db,
      `SELECT l.id, i.name, u.name AS unit, y.rest AS quantity, l.days, y.ours_on AS oursOn FROM longer l JOIN consigned_layer y ON y.id = l.layer
       JOIN item i ON i.id = y.item JOIN unit u ON u.code = i.unit WHERE l.agreement = ? AND l.answer IS NULL AND y.rest > 0 ORDER BY y.ours_on`,
    ).all(id),
    statements: readStatements(db, id)
      .filter((s) => s.sent !== null && s.state !== "Withdrawn")
      .slice(0, 24)
      .map(({ id: of, number, version, since, until, net, tax, total, state, said, agreedBy, due }) => ({
        id: of,
        number,
        version,
        since,
        until,
        net,
        tax,
        total,
        state,
        said,
        agreedBy,
        due,
      })),
  };
}

/** Is a statement one of an agreement that its supplier was sent? */
export const wasSent = (db: Db, statement: number, agreement: number): boolean =>
  sql(db, "SELECT 1 FROM use_statement WHERE id = ? AND agreement = ? AND sent IS NOT NULL").get(
    statement,
    agreement,
  ) !== undefined;
