import bwip from "bwip-js/node";
import PDFDocument from "pdfkit";
import { type LabelGoods, type LabelLayout, labelCode, labelPlace, pointsOf } from "../../core/stock/label";
import { INK } from "../pdf/sheets";
import { leading, type SetLine, type Style, typeset } from "../pdf/typeset";

/** Labels to be printed: each with how many there are of it. */
export interface LabelRun {
  layout: LabelLayout;
  goods: readonly { of: LabelGoods; copies: number }[];
  /** So many places of the first sheet are used already. */
  skip: number;
  /** The day on which the file is made. */
  day: string;
}

/** Points around what stands on a label, and between its text and its code. */
const MARGIN = 5;
const GAP = 4;

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Where text and code of a label are, from its corner, in points. A matrix stands at the right, a bar code below. */
function boxesOf({ width, height, code }: LabelLayout): { text: Box; code: Box | null } {
  const w = pointsOf(width) - 2 * MARGIN;
  const h = pointsOf(height) - 2 * MARGIN;
  if (code === "none") return { text: { x: MARGIN, y: MARGIN, width: w, height: h }, code: null };
  if (code === "bar code") {
    const bars = Math.min(34, h * 0.4);
    return {
      text: { x: MARGIN, y: MARGIN, width: w, height: h - bars - GAP },
      code: { x: MARGIN, y: MARGIN + h - bars, width: w, height: bars },
    };
  }
  const side = Math.min(h, w * 0.45, 85);
  return {
    text: { x: MARGIN, y: MARGIN, width: w - side - GAP, height: h },
    code: { x: MARGIN + w - side, y: MARGIN, width: side, height: side },
  };
}

/** The lines of a label that fit, and the fields for which there is no room. */
function setLabel(layout: LabelLayout, of: LabelGoods): { lines: SetLine[]; leftOut: string[] } {
  const { text } = boxesOf(layout);
  const lines: SetLine[] = [];
  const leftOut: string[] = [];
  let used = 0;
  for (const { field, size, bold } of layout.fields) {
    const says = of.texts[field];
    if (!says) continue;
    const style: Style = { face: bold ? "bold" : "text", size, color: INK };
    const room = Math.floor((text.height - used) / leading(style) + 1e-6);
    const set = text.width > 0 ? typeset(says, style, text.width, new Set()) : [];
    if (room < 1) {
      leftOut.push(field);
      continue;
    }
    // A name may take as many lines as there are; what is cut is cut at a line.
    lines.push(...set.slice(0, room));
    used += Math.min(room, set.length) * leading(style);
  }
  return { lines, leftOut };
}

/** Modules of a code, one unit wide each: drawn rectangles and how many units it is across and down. */
interface Modules {
  bars: Box[];
  across: number;
  down: number;
}

/** Draws nothing yet: the code as rectangles. A linear code is as high as its box. */
function modulesOf(code: { symbology: string; text: string }): Modules {
  // The library's types do not say what it gives: widths of bars and gaps by turns, or dots row by row.
  const [drawn] = bwip.raw({ bcid: code.symbology, text: code.text }) as (
    | { sbs: number[] }
    | { pixs: number[]; pixx: number; pixy: number }
  )[]; // see above
  if (!drawn) throw new Error(`No code was made of ${code.text}.`);
  if ("sbs" in drawn) {
    let at = 0;
    const bars: Box[] = [];
    drawn.sbs.forEach((width, i) => {
      if (i % 2 === 0) bars.push({ x: at, y: 0, width, height: 1 });
      at += width;
    });
    return { bars, across: at, down: 1 };
  }
  const { pixs, pixx, pixy } = drawn;
  const bars: Box[] = [];
  for (let y = 0; y < pixy; y++)
    for (let x = 0; x < pixx; x++) {
      if (!pixs[y * pixx + x]) continue;
      let width = 1;
      while (x + width < pixx && pixs[y * pixx + x + width]) width++;
      bars.push({ x, y, width, height: 1 });
      x += width;
    }
  return { bars, across: pixx, down: pixy };
}

/** The label's code within its box: bars as wide as whole tenths of points allow, a quiet zone at each side of a bar code. */
function placed(m: Modules, box: Box): Box[] {
  const linear = m.down === 1;
  const quiet = linear ? 20 : 2;
  const unit = linear
    ? box.width / (m.across + quiet)
    : Math.min(box.width / (m.across + quiet), box.height / (m.down + quiet));
  const left = box.x + (box.width - unit * m.across) / 2;
  const top = linear ? box.y : box.y + (box.height - unit * m.down) / 2;
  return m.bars.map((b) => ({
    x: left + b.x * unit,
    y: linear ? top : top + b.y * unit,
    width: b.width * unit,
    height: linear ? box.height : unit,
  }));
}

/** Labels as PDF, on sheets or one to a page; says how many are done after each page. With what had no room on the first. */
export async function labelsPdf(
  { layout, goods, skip, day }: LabelRun,
  say: (done: number) => void = () => {},
): Promise<{ pdf: Buffer; leftOut: string[] }> {
  const made = new Date(`${day}T00:00:00Z`);
  const s = layout.sheet;
  const doc = new PDFDocument({
    size: [pointsOf(s?.width ?? layout.width), pointsOf(s?.height ?? layout.height)],
    margin: 0,
    font: "",
    autoFirstPage: false,
    info: { Title: "Labels", Creator: "Wharf Tally", CreationDate: made, ModDate: made },
  });
  const parts: Buffer[] = [];
  doc.on("data", (part: Buffer) => parts.push(part));
  const ended = new Promise<void>((done) => doc.on("end", done));
  const known = new Set<string>();
  const { text, code: codeBox } = boxesOf(layout);
  let page = -1;
  let n = 0;
  for (const { of, copies } of goods) {
    const { lines } = setLabel(layout, of);
    const code = labelCode(layout.code, of);
    const bars = code && codeBox ? placed(modulesOf(code), codeBox) : [];
    for (let i = 0; i < copies; i++, n++) {
      const at = labelPlace(layout, n, skip);
      for (; page < at.page; page++) {
        doc.addPage();
        say(n);
      }
      const [x, y] = [pointsOf(at.x), pointsOf(at.y)];
      let down = y + text.y;
      for (const { runs, style } of lines) {
        let along = x + text.x;
        doc.fontSize(style.size).fillColor(style.color);
        for (const { text: run, file, width } of runs) {
          if (!known.has(file.name)) doc.registerFont(file.name, file.bytes);
          known.add(file.name);
          doc.font(file.name).text(run, along, down + style.size, { lineBreak: false, baseline: "alphabetic" });
          along += width;
        }
        down += leading(style);
      }
      for (const b of bars) doc.rect(x + b.x, y + b.y, b.width, b.height);
      if (bars.length) doc.fillColor("black").fill();
    }
  }
  if (page < 0) doc.addPage();
  doc.end();
  await ended;
  say(n);
  const [first] = goods;
  return { pdf: Buffer.concat(parts), leftOut: first ? setLabel(layout, first.of).leftOut : [] };
}
