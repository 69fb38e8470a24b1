import { RECORD_FIGURES, type RecordFigure } from "../../../core/insight/record";
import { showAmount, showDay, showMoney } from "../../../core/numbers/format";
import { count } from "../../../core/text";
import type { ReportDocument } from "../../../exchange/pdf/report-paper";
import { drawReport } from "../../../server/jobs/papers/draw";
import { type Company, theCompany } from "../../../server/queries/company";
import {
  type RecordAsked,
  readSupplierRecord,
  recordAsked,
  type SupplierRecordPage,
} from "../../../server/queries/insight/record";
import { supplierName } from "../../../server/queries/settling/invoices";
import { idOf, notFound, page } from "../../web/page";
import { pdfAnswer } from "../../web/pdf-answer";
import { FIGURE_NAMES, figureWords, movedBy } from "./record-words";

/** A supplier's record on paper, for a talk with them. */
export const loader = page("see insight", async ({ db, params, url, day }) => {
  const id = idOf(params.id);
  const name = supplierName(db, id);
  if (name === null) throw notFound("There is no such supplier.");
  const asked = recordAsked(url.searchParams, day);
  const report = recordReport(theCompany(db), name, asked, readSupplierRecord(db, id, asked));
  return pdfAnswer("record", await drawReport(db, report));
});

/** Of each figure, so many of the rows that count against them. */
const MOST = 12;
/** What is spoken about one by one. */
const TOLD: readonly RecordFigure[] = ["promised", "moved", "inFull", "aside", "held", "price"];

function recordReport(company: Company, name: string, asked: RecordAsked, r: SupplierRecordPage): ReportDocument {
  const { locale, currency } = company;
  const day = (d: string) => showDay(d, "0000", locale, false);
  const span = (d: { from: string; until: string }) => `${day(d.from)} to ${day(d.until)}`;
  const figures = RECORD_FIGURES.map((figure) => {
    const now = figureWords(figure, r.now, locale);
    const before = figureWords(figure, r.before, locale);
    return [
      `${now.name}: ${now.from}`,
      now.text ?? "–",
      before.text ?? "–",
      movedBy(figure, now, before, locale)?.text ?? "",
    ];
  });
  const told = TOLD.flatMap((figure) => {
    const against = r.rows[figure].filter((row) => row.against).slice(0, MOST);
    if (against.length === 0) return [];
    return [
      {
        title: FIGURE_NAMES[figure],
        heads: ["what", "day", figure === "price" ? `more, ${currency}` : "how"],
        rows: against.map((row) => [
          row.words,
          row.day ? day(row.day) : "",
          row.minor === null ? row.says : showMoney(row.minor, currency, locale),
        ]),
      },
    ];
  });
  return {
    title: name,
    company: { name: company.name, address: company.address },
    day: asked.period.until,
    locale,
    facts: [
      { title: "Days", lines: [span(asked.period)] },
      { title: "Against", lines: [span(asked.before)] },
      { title: "Received", lines: [showAmount(r.now.received, currency, locale), count(r.now.loads, "load")] },
      {
        title: "Claims open",
        lines: [r.claims.count === 0 ? "none" : `${r.claims.count}: ${showAmount(r.claims.home, currency, locale)}`],
      },
    ],
    tables: [{ title: "How it went", heads: ["figure", "now", "before", "moved by"], rows: figures }, ...told],
    notes: [
      "In time: no later than the day promised, or asked for, and the days late that are tolerated. – stands where nothing is known.",
      `Of each figure, what counts against them, the last ${MOST} at most. Papers are in home currency, before tax.`,
    ],
  };
}
