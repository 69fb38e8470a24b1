import { showDay } from "../../core/numbers/format";
import { type Block, BOLD, blocks, CODES, FIGURE, HEAD, type Logo, letterhead, note, PLAIN, sayMissing } from "./paper";
import { paperWords } from "./paper-words";
import { Sheets } from "./sheets";

/** A table of a report: what its first column names, and figures beside it, already written out. */
export interface ReportTable {
  title: string;
  heads: readonly string[];
  rows: readonly (readonly string[])[];
  /** What all rows come to. */
  total?: readonly string[];
}

/** Figures of the house for reading and for a talk: in its own language, with what they are of. */
export interface ReportDocument {
  title: string;
  company: { name: string; address: string };
  day: string;
  locale: string;
  facts: readonly Block[];
  tables: readonly ReportTable[];
  /** How figures come about. */
  notes: readonly string[];
}

/** Points that a column of figures takes; where there are more than fit beside the names, they go on below. */
const FIGURES = 64;
const LEAST_NAME = 150;

/** The report as A4. */
export function reportPdf(d: ReportDocument, logo: Logo | null = null): Promise<Buffer> {
  const p = new Sheets({
    title: `${d.title}, ${d.company.name}`,
    author: d.company.name,
    language: d.locale,
    day: d.day,
  });
  letterhead(p, { company: d.company, title: d.title, day: showDay(d.day, "0000", d.locale, false), logo });
  if (d.facts.length > 0) blocks(p, d.facts);
  for (const table of d.tables) for (const part of inWidth(table, p.width)) reportTable(p, part);
  for (const text of d.notes) note(p, text, CODES);
  sayMissing(p, paperWords("en").missing);
  return p.finish((sheet, sheets) => ({ left: d.title, right: `${sheet} / ${sheets}` }));
}

/** The parts of a table that fit side by side, each with the names. */
function inWidth(t: ReportTable, width: number): ReportTable[] {
  const most = Math.floor((width - LEAST_NAME) / FIGURES);
  const figures = t.heads.length - 1;
  if (figures <= most) return [t];
  const parts: ReportTable[] = [];
  for (let from = 1; from <= figures; from += most) {
    const of = (row: readonly string[]) => [row[0]!, ...row.slice(from, from + most)];
    parts.push({
      title: from === 1 ? t.title : `${t.title}, continued`,
      heads: of(t.heads),
      rows: t.rows.map(of),
      ...(t.total && { total: of(t.total) }),
    });
  }
  return parts;
}

function reportTable(p: Sheets, t: ReportTable): void {
  const figures = t.heads.length - 1;
  const name = p.width - figures * FIGURES;
  const at = (i: number) =>
    i === 0 ? { x: 0, width: name - 8 } : { x: name + (i - 1) * FIGURES + 6, width: FIGURES - 6 };
  const cells = (row: readonly string[], style: (i: number) => typeof PLAIN) =>
    row.map((text, i) => ({ ...at(i), lines: p.set(text, style(i), at(i).width) }));
  p.y += 14;
  p.paragraph(p.set(t.title, BOLD), { tag: "H2" });
  p.y += 4;
  p.table(
    cells(t.heads, (i) => (i === 0 ? HEAD : { ...HEAD, align: "right" })),
    [
      ...t.rows.map((row) => cells(row, (i) => (i === 0 ? PLAIN : FIGURE))),
      ...(t.total ? [cells(t.total, (i) => (i === 0 ? BOLD : { ...BOLD, size: 8.5, align: "right" }))] : []),
    ],
  );
}
