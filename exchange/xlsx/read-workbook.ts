import { SaxesParser, type SaxesTagPlain } from "saxes";
import yauzl from "yauzl";
import { type DecimalMark, decimalText } from "../../core/numbers/decimal";
import { MOST_BYTES, MOST_CELLS, MOST_COLUMNS, MOST_ROWS, MOST_UNPACKED } from "../csv/limits";
import { type Fault, readTable, type Table } from "../csv/table";

type Read = { ok: true; table: Table } | { ok: false; faults: Fault[] };
const whole = (says: string, line = 1): Read => ({ ok: false, faults: [{ line, column: "", found: "", says }] });

/** A workbook is a ZIP archive; text never begins like one. */
export const isWorkbook = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** Reads a file as CSV or, where it is one, as the first sheet of an XLSX workbook (Office Open XML, ISO/IEC 29500). */
export const readAnyTable = async (bytes: Uint8Array, mark: DecimalMark): Promise<Read> =>
  isWorkbook(bytes) ? readWorkbook(bytes, mark) : readTable(bytes);

/** What ends the reading with a sentence. */
class TooMuch extends Error {}

/**
 * Reads the first sheet part by part, so that a small archive that unpacks to very much, or names cells very far out,
 * ends with a sentence instead of filling the memory. Of merged cells the first has the value.
 */
async function readWorkbook(bytes: Uint8Array, mark: DecimalMark): Promise<Read> {
  if (bytes.length > MOST_BYTES) return whole("The file is larger than 20 MB. Split it.");
  try {
    return await readSheet(await Archive.open(bytes), mark);
  } catch (e) {
    if (e instanceof TooMuch) return whole(e.message);
    return whole("This is not a workbook that can be read. Save it as XLSX or CSV again.");
  }
}

async function readSheet(archive: Archive, mark: DecimalMark): Promise<Read> {
  const book = await readBook(archive);
  const texts = await readTexts(archive, book.texts);
  const dates = await readDateStyles(archive, book.styles);
  const sheet = new SheetRows({ texts, dates, from1904: book.from1904 }, mark);
  await archive.parse(book.sheet, sheet);
  if (sheet.columns.length === 0) return whole("The first sheet is empty.");
  return sheet.faults.length
    ? { ok: false, faults: sheet.faults }
    : { ok: true, table: { columns: sheet.columns, rows: sheet.rows } };
}

interface Reading {
  open?: (tag: SaxesTagPlain, name: string) => void;
  text?: (text: string) => void;
  close?: (name: string) => void;
}

/** The parts of a workbook; those that are read may unpack to so much and no more. */
class Archive {
  private unpacked = 0;
  private constructor(
    private zip: yauzl.ZipFile,
    private parts: Map<string, yauzl.Entry>,
  ) {}

  static open(bytes: Uint8Array): Promise<Archive> {
    return new Promise((resolve, reject) => {
      yauzl.fromBuffer(Buffer.from(bytes), { lazyEntries: true }, (fault, zip) => {
        if (fault) return reject(fault);
        const parts = new Map<string, yauzl.Entry>();
        zip.on("error", reject);
        zip.on("entry", (entry: yauzl.Entry) => {
          if (parts.size > 5_000) return reject(new TooMuch("The workbook has too many parts. Save it as CSV."));
          parts.set(entry.fileName, entry);
          zip.readEntry();
        });
        zip.on("end", () => resolve(new Archive(zip, parts)));
        zip.readEntry();
      });
    });
  }

  has = (path: string) => this.parts.has(path);

  /** Reads one part as XML; names come without their prefix. */
  async parse(path: string, reading: Reading): Promise<void> {
    const entry = this.parts.get(path);
    if (!entry) throw new Error(`The workbook lacks ${path}.`);
    // A part that turns out larger than it claims ends with a fault of the archive.
    this.unpacked += entry.uncompressedSize;
    if (this.unpacked > MOST_UNPACKED)
      throw new TooMuch("The workbook is far larger unpacked than it looks. Save it as CSV.");
    const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
      this.zip.openReadStream(entry, (fault, s) => (fault ? reject(fault) : resolve(s))),
    );
    const parser = new SaxesParser();
    parser.on("error", (fault) => {
      throw fault;
    });
    const plain = (name: string) => name.slice(name.indexOf(":") + 1);
    if (reading.open) parser.on("opentag", (tag) => reading.open!(tag, plain(tag.name)));
    if (reading.text) {
      parser.on("text", (t) => reading.text!(t));
      parser.on("cdata", (t) => reading.text!(t));
    }
    if (reading.close) parser.on("closetag", (tag) => reading.close!(plain(tag.name)));
    let decoder: TextDecoder | null = null;
    for await (const chunk of stream as AsyncIterable<Buffer> /* no encoding is set */) {
      decoder ??= new TextDecoder(chunk[0] === 0xff ? "utf-16le" : "utf-8");
      parser.write(decoder.decode(chunk, { stream: true }));
    }
    parser.close();
  }
}

/** What one part says about others, by id. */
async function relations(archive: Archive, of: string): Promise<Map<string, { type: string; path: string }>> {
  const [folder, name] = [of.slice(0, of.lastIndexOf("/") + 1), of.slice(of.lastIndexOf("/") + 1)];
  const found = new Map<string, { type: string; path: string }>();
  const path = `${folder}_rels/${name}.rels`;
  if (!archive.has(path)) return found;
  await archive.parse(path, {
    open: ({ attributes: a }, tag) => {
      if (tag !== "Relationship") return;
      const target = String(a.Target ?? "");
      const at = new URL(target, `file:///${folder}`).pathname.slice(1);
      found.set(String(a.Id), { type: String(a.Type ?? "").replace(/^.*\//, ""), path: decodeURIComponent(at) });
    },
  });
  return found;
}

interface Book {
  /** Where the first sheet, the shared texts and the styles stand. */
  sheet: string;
  texts: string | null;
  styles: string | null;
  /** Days are counted from 1904 instead of 1900. */
  from1904: boolean;
}

async function readBook(archive: Archive): Promise<Book> {
  const root = [...(await relations(archive, "")).values()].find((r) => r.type === "officeDocument");
  const path = root?.path ?? "xl/workbook.xml";
  const parts = await relations(archive, path);
  const sheets: string[] = [];
  let from1904 = false;
  await archive.parse(path, {
    open: ({ attributes: a }, tag) => {
      if (tag === "workbookPr") from1904 = /^(1|true)$/.test(String(a.date1904 ?? ""));
      if (tag !== "sheet") return;
      const id = Object.entries(a).find(([name]) => /:id$/.test(name))?.[1];
      const part = parts.get(String(id));
      if (part?.type === "worksheet") sheets.push(part.path);
    },
  });
  const part = (type: string) => [...parts.values()].find((p) => p.type === type && archive.has(p.path))?.path ?? null;
  if (!sheets[0]) throw new Error("The workbook has no sheet.");
  return { sheet: sheets[0], texts: part("sharedStrings"), styles: part("styles"), from1904 };
}

/** `_x000D_` and the like stand for characters that XML cannot hold (ISO/IEC 29500-1, 22.9.2.19). */
const unescaped = (text: string) =>
  text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)));

/** The texts that cells share; pronunciations beside them are left out. */
async function readTexts(archive: Archive, path: string | null): Promise<string[]> {
  const texts: string[] = [];
  if (!path) return texts;
  let text = "";
  let inside = false;
  let aside = 0;
  await archive.parse(path, {
    open: (_, tag) => {
      if (tag === "si") text = "";
      else if (tag === "rPh") aside++;
      else if (tag === "t") inside = aside === 0;
    },
    text: (t) => {
      if (inside) text += t;
    },
    close: (tag) => {
      if (tag === "t") inside = false;
      else if (tag === "rPh") aside--;
      else if (tag === "si") texts.push(unescaped(text));
    },
  });
  return texts;
}

/** Formats for days that need not be spelled out (ISO/IEC 29500-1, 18.8.30), with those of East Asian locales. */
const isDateFormat = (id: number) =>
  (id >= 14 && id <= 22) || (id >= 27 && id <= 36) || (id >= 45 && id <= 47) || (id >= 50 && id <= 58);

/** Which styles of cells show a number as a day. */
async function readDateStyles(archive: Archive, path: string | null): Promise<boolean[]> {
  const styles: boolean[] = [];
  if (!path) return styles;
  const own = new Map<number, boolean>();
  let inCells = false;
  await archive.parse(path, {
    open: ({ attributes: a }, tag) => {
      if (tag === "numFmt") {
        const code = String(a.formatCode ?? "").replace(/"[^"]*"|\\.|\[[^\]]*\]|_./g, "");
        own.set(Number(a.numFmtId), /[ymdhs]/i.test(code.replace(/general/gi, "")));
      } else if (tag === "cellXfs") inCells = true;
      else if (tag === "xf" && inCells) {
        const id = Number(a.numFmtId ?? 0);
        styles.push(own.get(id) ?? isDateFormat(id));
      }
    },
    close: (tag) => {
      if (tag === "cellXfs") inCells = false;
    },
  });
  return styles;
}

/** Gathers the rows of a sheet while it is read: the first that holds something names the columns. */
class SheetRows implements Reading {
  columns: string[] = [];
  readonly rows: Table["rows"] = [];
  readonly faults: Fault[] = [];
  private line = 0;
  private cells: string[] = [];
  private column = 0;
  private type = "";
  private style = 0;
  private value = "";
  private inline = "";
  private within: "value" | "inline" | null = null;
  private aside = 0;
  private seen = 0;

  constructor(
    private book: { texts: readonly string[]; dates: readonly boolean[]; from1904: boolean },
    private mark: DecimalMark,
  ) {}

  open({ attributes: a }: SaxesTagPlain, tag: string): void {
    if (tag === "row") {
      this.line = a.r === undefined ? this.line + 1 : Number(a.r);
      this.cells = [];
      this.column = 0;
    } else if (tag === "c") {
      if (++this.seen > MOST_CELLS) throw new TooMuch("The sheet has more than five million cells. Split it.");
      this.column = a.r === undefined ? this.column + 1 : columnOf(String(a.r));
      this.type = String(a.t ?? "n");
      this.style = Number(a.s ?? 0);
      this.value = "";
      this.inline = "";
    } else if (tag === "rPh") this.aside++;
    else if (tag === "v") this.within = "value";
    else if (tag === "t") this.within = this.aside ? null : "inline";
  }

  text(t: string): void {
    if (this.within === "value") this.value += t;
    else if (this.within === "inline") this.inline += t;
  }

  close(tag: string): void {
    if (tag === "v" || tag === "t") this.within = null;
    else if (tag === "rPh") this.aside--;
    else if (tag === "c") this.cell();
    else if (tag === "row") this.row();
  }

  private cell(): void {
    // What stands beyond the named columns belongs to no field.
    if (this.columns.length > 0 && this.column > this.columns.length) return;
    const text = this.meant()?.trim();
    if (text === undefined)
      this.faults.push({
        line: this.line,
        column: `${lettersOf(this.column)}${this.line}`,
        found: this.value.slice(0, 60),
        says: "This cell holds a fault instead of a value.",
      });
    else if (text !== "") this.cells[this.column - 1] = text;
  }

  /** A cell as the text that the same column of a CSV file would hold; a formula by its last result. */
  private meant(): string | undefined {
    const { type, value } = this;
    if (type === "e") return undefined;
    if (type === "inlineStr") return unescaped(this.inline);
    if (type === "str") return unescaped(value);
    if (value === "") return "";
    if (type === "s") return this.book.texts[Number(value)] ?? "";
    if (type === "b") return value === "1" || value === "true" ? "yes" : "no";
    if (type === "d") return value.slice(0, 10);
    const number = Number(value);
    if (!Number.isFinite(number)) return undefined;
    if (this.book.dates[this.style]) return dayOf(number, this.book.from1904);
    return numberText(number).replace(".", this.mark);
  }

  private row(): void {
    const last = this.cells.length;
    if (last === 0) return;
    if (this.columns.length === 0) {
      if (last > MOST_COLUMNS)
        throw new TooMuch(`The first row has more than ${MOST_COLUMNS} columns. Is this the right file?`);
      this.columns = Array.from(this.cells, (c) => (c ?? "").toLowerCase());
      return;
    }
    if (this.rows.length >= MOST_ROWS) throw new TooMuch("The sheet has more than 200,000 rows. Split it.");
    this.rows.push({ line: this.line, cells: Array.from(this.columns, (_, i) => this.cells[i] ?? "") });
  }
}

/** "AB12" is column 28. */
function columnOf(address: string): number {
  let n = 0;
  for (const c of address) {
    const letter = c.charCodeAt(0) - 64;
    if (letter < 1 || letter > 26) break;
    n = n * 26 + letter;
  }
  return n;
}

function lettersOf(column: number): string {
  let text = "";
  for (let n = column; n > 0; n = Math.floor((n - 1) / 26)) text = String.fromCharCode(65 + ((n - 1) % 26)) + text;
  return text;
}

/** A day by its count (ISO/IEC 29500-1, 18.17.4): from 1900, where 1900 is taken for a leap year, or from 1904. */
function dayOf(serial: number, from1904: boolean): string {
  const days = Math.floor(serial) + (from1904 ? 1462 : serial < 60 ? 1 : 0);
  const at = new Date((days - 25_569) * 86_400_000);
  return Number.isNaN(at.getTime()) ? String(serial) : at.toISOString().slice(0, 10);
}

/** Workbooks keep numbers in binary: fifteen digits are what was typed, the rest is noise. */
function numberText(n: number): string {
  if (Number.isSafeInteger(n)) return String(n);
  const digits = Number(n.toPrecision(15));
  const text = String(digits);
  return /e/.test(text) ? decimalText(Math.round(digits * 1e6), 6) : text;
}
