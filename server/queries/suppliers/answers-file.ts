import type { Day } from "../../../core/calendar/day";
import { priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { unitCode } from "../../../core/numbers/units";
import { readColumn, SaidColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { recordsFile } from "../records-file";

/** The columns of /answers.csv, in their order: a row for each part of what was said of a line. */
export const ANSWER_COLUMNS = [
  "answer",
  "order",
  "version",
  "supplier",
  "line",
  "item",
  "description",
  "way",
  "said_by",
  "said_on",
  "says",
  "part",
  "quantity",
  "unit",
  "day",
  "price",
  "currency",
  "instead",
  "charge",
  "charge_for",
  "remark",
  "state",
  "decided",
  "decided_by",
  "reason",
] as const;
type AnswerRecord = Record<(typeof ANSWER_COLUMNS)[number], string>;

interface Row {
  answer: number;
  number: string;
  revision: number;
  supplier: string;
  position: number;
  code: string;
  name: string;
  way: string;
  saidBy: string;
  saidOn: Day;
  said: string;
  unit: string;
  currency: string;
  state: string;
  decided: string;
  decidedBy: string;
  why: string;
}

/** All that suppliers ever said of lines, or what of it waits alone, the first said first. */
export function readAnswerRecords(db: Db, waiting: boolean): AnswerRecord[] {
  const rows = sql<Row>(
    db,
    `SELECT a.id AS answer, o.number, a.revision, s.code AS supplier, l.position, coalesce(i.code, '') AS code, coalesce(i.name, l.words) AS name,
            a.way, a.said_by AS saidBy, a.said_on AS saidOn, w.said, l.unit, o.currency, w.state, coalesce(w.decided, '') AS decided, coalesce(p.login, '') AS decidedBy, w.why
     FROM answer_line w JOIN answer a ON a.id = w.answer JOIN order_line l ON l.id = w.order_line JOIN purchase_order o ON o.id = a.purchase_order
     JOIN supplier s ON s.id = o.supplier LEFT JOIN item i ON i.id = l.item LEFT JOIN person p ON p.id = w.decided_by
     WHERE @waiting = 0 OR (w.state = 'waits' AND l.open = 1 AND o.stage = 'placed') ORDER BY w.id`,
  ).all({ waiting: waiting ? 1 : 0 });
  return rows.flatMap((r): AnswerRecord[] => {
    const said = readColumn(SaidColumn, r.said);
    const of = (part: number, quantity: string, day: string): AnswerRecord => ({
      answer: String(r.answer),
      order: r.number,
      version: String(r.revision),
      supplier: r.supplier,
      line: String(r.position),
      item: r.code,
      description: r.name,
      way: r.way,
      said_by: r.saidBy,
      said_on: r.saidOn,
      says: said.parts === null ? "days as they stand" : said.parts.length === 0 ? "cannot supply" : "parts",
      part: part ? String(part) : "",
      quantity,
      unit: unitCode(r.unit),
      day,
      price: said.price === null ? "" : priceText(said.price),
      currency: said.price === null && said.charge === null ? "" : r.currency,
      instead: said.instead,
      charge: said.charge ? priceText(said.charge.price) : "",
      charge_for: said.charge?.words ?? "",
      remark: said.remark,
      state: r.state,
      decided: r.decided,
      decided_by: r.decidedBy,
      reason: r.why,
    });
    return said.parts?.length ? said.parts.map((p, i) => of(i + 1, quantityText(p.quantity), p.day)) : [of(0, "", "")];
  });
}

export const answersFile = (db: Db, waiting: boolean): AsyncGenerator<string> =>
  recordsFile(readAnswerRecords(db, waiting), ANSWER_COLUMNS, (r) => r, "csv");
