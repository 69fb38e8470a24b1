import PDFDocument from "pdfkit";
import type { TypeFile } from "./fonts";
import { clean, leading, type SetLine, type Style, typeset } from "./typeset";

/** Points: an A4 sheet and its margins. */
const PAGE = { width: 595.28, height: 841.89, left: 46, right: 46, top: 44, bottom: 64 };

export const INK = "#15242B";
export const QUIET = "#4A5A60";
export const RULE = "#C9CFC4";

export interface Meta {
  title: string;
  author: string;
  /** A BCP 47 tag. */
  language: string;
  /** The day of the paper, which is the day its file says it was made: the same paper is the same file. */
  day: string;
}

type Element = PDFKit.PDFStructureElement;

/** A set line, and how far from the left of its cell it starts. */
export interface Cell {
  x: number;
  width: number;
  lines: SetLine[];
}

/**
 * A4 sheets that text is set on from top to bottom, as tagged PDF/A-2a. Every text is an element of the document's structure,
 * every rule and what repeats on each sheet an artifact.
 */
export class Sheets {
  readonly left = PAGE.left;
  readonly width = PAGE.width - PAGE.left - PAGE.right;
  readonly bottom = PAGE.height - PAGE.bottom;
  /** Letters that no file of type has, in the order they were met. */
  readonly missing = new Set<string>();
  /** Points from the top at which the next thing is set. */
  y = PAGE.top;
  private readonly doc: PDFKit.PDFDocument;
  private readonly root: Element;
  private readonly known = new Set<string>();
  /** Drawn again at the top of each further sheet while a table goes on. */
  private repeat: (() => void) | null = null;

  constructor({ title, author, language, day }: Meta) {
    const made = new Date(`${day}T00:00:00Z`);
    this.doc = new PDFDocument({
      size: "A4",
      margin: 0,
      bufferPages: true,
      font: "", // none but those that are set, which are all in the file
      tagged: true,
      displayTitle: true,
      lang: language,
      pdfVersion: "1.7",
      subset: "PDF/A-2a",
      info: { Title: clean(title), Author: clean(author), Creator: "Wharf Tally", CreationDate: made, ModDate: made },
    });
    this.root = this.doc.struct("Document");
    this.doc.addStructure(this.root);
    spelledInXmp(this.doc);
  }

  set(text: string, style: Style, width = this.width): SetLine[] {
    return text === "" ? [] : typeset(text, style, width, this.missing);
  }

  /** An element of the document under another one; `draw` is what is read out for it. */
  tag(type: string, under: Element | null = null, draw?: () => void, options: object = {}): Element {
    const element = this.doc.struct(type as "P", options); // the library’s types leave out some that PDF has
    (under ?? this.root).add(element);
    if (draw) element.add(draw);
    return element;
  }

  /** What is drawn for the eye alone. */
  artifact(draw: () => void, type: "Layout" | "Pagination" = "Layout"): void {
    this.doc.markContent("Artifact", { type });
    draw();
    this.doc.endMarkedContent();
  }

  /** Draws set lines from a point downwards; returns where they end. */
  draw(lines: readonly SetLine[], x: number, y: number, width: number): number {
    for (const { runs, width: set, style } of lines) {
      let at = style.align === "right" ? x + width - set : x;
      this.doc.fontSize(style.size).fillColor(style.color);
      for (const { text, file, width: run } of runs) {
        this.doc.font(this.fontOf(file)).text(text, at, y + style.size, { lineBreak: false, baseline: "alphabetic" });
        at += run;
      }
      y += leading(style);
    }
    return y;
  }

  private fontOf({ name, bytes }: TypeFile): string {
    if (!this.known.has(name)) this.doc.registerFont(name, bytes);
    this.known.add(name);
    return name;
  }

  rule(y: number, thick: number, color = INK, x = this.left, width = this.width): void {
    this.artifact(() =>
      this.doc
        .moveTo(x, y)
        .lineTo(x + width, y)
        .lineWidth(thick)
        .strokeColor(color)
        .stroke(),
    );
  }

  picture(bytes: Buffer, alt: string, fit: [number, number]): void {
    const { left, y } = this;
    this.tag("Figure", null, () => this.doc.image(bytes, left, y, { fit }), { alt });
  }

  /** The house's own sign, where a company has none. */
  mark(x: number, y: number): void {
    this.artifact(() => {
      this.doc.lineWidth(2.2).strokeColor(INK);
      for (const bar of [3, 8, 13, 18])
        this.doc
          .moveTo(x + bar + 2, y + 2)
          .lineTo(x + bar, y + 18)
          .stroke();
      this.doc
        .strokeColor("#8A6A12")
        .moveTo(x, y + 15)
        .lineTo(x + 25, y + 4)
        .stroke();
    });
  }

  nextSheet(): void {
    this.doc.addPage();
    this.y = PAGE.top;
    if (this.repeat) this.artifact(this.repeat, "Pagination");
  }

  /** Goes on to the next sheet where so many points do not fit any more. */
  room(height: number): void {
    if (this.y + height > this.bottom && this.y > PAGE.top) this.nextSheet();
  }

  /** Text over the whole width or a part of it, broken over sheets line by line. */
  paragraph(lines: readonly SetLine[], { x = this.left, width = this.width, tag = "P", bar = false } = {}): void {
    const element = this.tag(tag);
    let rest = lines;
    while (rest.length > 0) {
      this.room(leading(rest[0]!.style));
      const here = fitting(rest, this.bottom - this.y);
      const from = this.y;
      element.add(() => {
        this.y = this.draw(here, x, this.y, width);
      });
      if (bar) this.artifact(() => this.bar(x - 9, from, this.y));
      rest = rest.slice(here.length);
    }
    element.end();
  }

  private bar(x: number, from: number, to: number): void {
    this.doc.moveTo(x, from).lineTo(x, to).lineWidth(2).strokeColor(INK).stroke();
  }

  /** A table: its heads stand on each sheet that it reaches. */
  table(heads: Cell[], rows: Iterable<Cell[]>): void {
    const table = this.tag("Table");
    const headHeight = tallest(heads) + 3;
    const drawHeads = () => {
      for (const h of heads) this.draw(h.lines, this.left + h.x, this.y, h.width);
      this.y += headHeight;
    };
    this.room(headHeight + 40);
    const tr = this.tag("TR", table);
    const top = this.y;
    for (const h of heads) this.tag("TH", tr, () => this.draw(h.lines, this.left + h.x, top, h.width)).end();
    tr.end();
    this.y += headHeight;
    this.rule(this.y, 1.5);
    this.repeat = () => {
      drawHeads();
      this.doc
        .moveTo(this.left, this.y)
        .lineTo(this.left + this.width, this.y)
        .lineWidth(1.5)
        .strokeColor(INK)
        .stroke();
    };
    for (const row of rows) this.row(table, row);
    this.repeat = null;
    table.end();
  }

  /** A row is kept on one sheet, unless it alone is taller than one. */
  private row(table: Element, cells: Cell[]): void {
    const PAD = 5;
    const whole = tallest(cells) + 2 * PAD;
    if (whole <= this.bottom - PAGE.top - 30) this.room(whole);
    const tr = this.tag("TR", table);
    const parts = cells.map((c) => ({ ...c, element: this.tag("TD", tr) }));
    const largest = Math.max(...cells.map((c) => c.lines[0]?.style.size ?? 0));
    while (parts.some((p) => p.lines.length > 0)) {
      this.y += PAD;
      const from = this.y;
      let to = from;
      for (const p of parts) {
        const here = fitting(p.lines, this.bottom - from - PAD);
        if (here.length > 0)
          p.element.add(() => {
            const drop = largest - here[0]!.style.size; // all cells stand on one line
            to = Math.max(to, this.draw(here, this.left + p.x, from + drop, p.width));
          });
        p.lines = p.lines.slice(here.length);
      }
      this.y = to + PAD;
      if (parts.some((p) => p.lines.length > 0)) this.nextSheet();
    }
    for (const p of parts) p.element.end();
    tr.end();
    this.rule(this.y, 0.6, RULE);
  }

  /** Draws what stands at the foot of every sheet, and gives the file. */
  async finish(foot: (sheet: number, sheets: number) => { left: string; right: string }): Promise<Buffer> {
    const style: Style = { face: "text", size: 7.5, color: QUIET };
    const { count } = this.doc.bufferedPageRange();
    for (let i = 0; i < count; i++) {
      this.doc.switchToPage(i);
      const { left, right } = foot(i + 1, count);
      const y = PAGE.height - PAGE.bottom + 18;
      this.rule(y, 0.6, RULE);
      this.artifact(() => {
        this.draw(this.set(left, style, 440).slice(0, 3), this.left, y + 6, 440);
        this.draw(this.set(right, { ...style, align: "right" }, 60), this.left + this.width - 60, y + 6, 60);
      }, "Pagination");
    }
    this.root.end();
    const parts: Buffer[] = [];
    this.doc.on("data", (part: Buffer) => parts.push(part));
    const ended = new Promise((done) => this.doc.on("end", done));
    this.doc.end();
    await ended;
    return Buffer.concat(parts);
  }
}

/** Title and author go into the XMP as they are, where a "&" of a company's name has to be spelled; by then the rest is written. */
function spelledInXmp(doc: PDFKit.PDFDocument): void {
  const ending = doc as unknown as { endMetadata: () => void }; // not in the library’s types
  const end = ending.endMetadata.bind(doc);
  ending.endMetadata = () => {
    const spell = (text = "") => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");
    Object.assign(doc.info, { Title: spell(doc.info.Title), Author: spell(doc.info.Author) });
    end();
  };
}

export const heightOf = (lines: readonly SetLine[]) => lines.reduce((sum, l) => sum + leading(l.style), 0);
const tallest = (cells: readonly Cell[]) => Math.max(0, ...cells.map((c) => heightOf(c.lines)));

/** As many of the lines as fit, but one at least. */
function fitting(lines: readonly SetLine[], height: number): SetLine[] {
  let used = 0;
  let n = 0;
  while (n < lines.length && (n === 0 || used + leading(lines[n]!.style) <= height)) used += leading(lines[n++]!.style);
  return lines.slice(0, n);
}
