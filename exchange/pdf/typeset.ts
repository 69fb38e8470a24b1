import bidiFactory from "bidi-js";
import LineBreaker from "linebreak";
import { type Face, fileFor, type TypeFile, widthIn } from "./fonts";

export interface Style {
  face: Face;
  /** Points. */
  size: number;
  color: string;
  align?: "left" | "right";
}

/** Letters of one file of type, as they are drawn from left to right. */
export interface TextRun {
  text: string;
  file: TypeFile;
  width: number;
}

/** One line of set text. */
export interface SetLine {
  runs: TextRun[];
  /** Points, without the spaces at its end. */
  width: number;
  style: Style;
}

/** Points from one line to the next. */
export const leading = (style: Style) => style.size * 1.35;

const bidi = bidiFactory();
const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/;
const graphemes = new Intl.Segmenter("und", { granularity: "grapheme" });
/** What stands for a letter that no file of ours has; the first that is in one of them. */
const MISSING = ["\u25a1", "\ufffd", "?"];

interface Letter {
  text: string;
  file: TypeFile;
  level: number;
}

/**
 * Sets a text in lines no wider than `width` points: broken where Unicode allows it (UAX 14), within a word only where the
 * word alone is too wide; each letter from the first file that has it; right-to-left text in its own order (UAX 9). A letter
 * that none has is set as an empty box and added to `missing`.
 */
export function typeset(text: string, style: Style, width: number, missing: Set<string>): SetLine[] {
  return clean(text)
    .split("\n")
    .flatMap((paragraph) => setParagraph(paragraph, style, width, missing));
}

/** Composed, without letters that print nothing; the line ends of any system. */
export const clean = (text: string) =>
  text
    .normalize("NFC")
    .replace(/\r\n?|\u2028|\u2029/g, "\n")
    .replace(/\t/g, " ")
    .replace(/(?!\n)\p{Cc}|[\u00ad\u200b\u200e\u200f\u202a-\u202e\u2060\ufeff\ufffe\uffff]/gu, "");

function setParagraph(text: string, style: Style, width: number, missing: Set<string>): SetLine[] {
  const letters = lettersOf(text, style.face, missing);
  const lines: SetLine[] = [];
  let line: Letter[] = [];
  let set = 0; // how far the line has come, with the spaces at its end
  const flush = () => {
    lines.push(lineOf(line, style));
    line = [];
    set = 0;
  };
  const put = (part: readonly Letter[]) => {
    line.push(...part);
    set += widthOf(part, style);
  };
  for (const word of wordsOf(text, letters)) {
    const seen = widthOf(withoutEnd(word), style);
    if (line.length > 0 && set + seen > width) flush();
    if (seen <= width) put(word);
    else
      for (const letter of word) {
        if (line.length > 0 && set + widthOf([letter], style) > width) flush();
        put([letter]);
      }
  }
  flush();
  return lines;
}

function lettersOf(text: string, face: Face, missing: Set<string>): Letter[] {
  const levels = RIGHT_TO_LEFT.test(text) ? bidi.getEmbeddingLevels(text).levels : null;
  const letters: Letter[] = [];
  for (const { segment, index } of graphemes.segment(text)) {
    const level = levels?.[index] ?? 0;
    const mirrored = level % 2 === 1 ? (bidi.getMirroredCharacter(segment) ?? segment) : segment;
    const file = fileFor(face, mirrored);
    if (file) letters.push({ text: mirrored, file, level });
    else if (/^\p{Zs}$/u.test(segment)) {
      // A space that is narrower or not to be broken at: on paper a space.
      letters.push({ text: " ", file: fileFor(face, " ")!, level });
    } else {
      missing.add(segment);
      const sign = MISSING.find((m) => fileFor(face, m))!;
      letters.push({ text: sign, file: fileFor(face, sign)!, level });
    }
  }
  return letters;
}

/** The letters between two places where a line may be broken. */
function* wordsOf(text: string, letters: readonly Letter[]): Generator<Letter[]> {
  const breaker = new LineBreaker(text);
  const ends = new Set<number>();
  for (let at = breaker.nextBreak(); at; at = breaker.nextBreak()) ends.add(at.position);
  let word: Letter[] = [];
  let index = 0;
  for (const [i, { segment }] of [...graphemes.segment(text)].entries()) {
    word.push(letters[i]!);
    index += segment.length;
    if (ends.has(index)) {
      yield word;
      word = [];
    }
  }
  if (word.length > 0) yield word;
}

const withoutEnd = (letters: readonly Letter[]) => {
  let end = letters.length;
  while (end > 0 && letters[end - 1]!.text === " ") end--;
  return end === letters.length ? letters : letters.slice(0, end);
};

const widthOf = (letters: readonly Letter[], style: Style) =>
  runsOf(letters, style).reduce((sum, r) => sum + r.width, 0);

function lineOf(letters: readonly Letter[], style: Style): SetLine {
  const runs = runsOf(withoutEnd(letters), style);
  return { runs: inSight(runs), width: runs.reduce((sum, r) => sum + r.width, 0), style };
}

interface LevelRun extends TextRun {
  level: number;
}

function runsOf(letters: readonly Letter[], style: Style): LevelRun[] {
  const runs: LevelRun[] = [];
  for (let i = 0; i < letters.length; ) {
    const { file, level } = letters[i]!;
    let text = "";
    for (; i < letters.length && letters[i]!.file === file && letters[i]!.level === level; i++)
      text += letters[i]!.text;
    runs.push({ text, file, level, width: widthIn(file, text) * style.size });
  }
  return runs;
}

/** Runs from left to right (UAX 9, L2). Letters of a right-to-left script are turned by their file, signs among them here. */
function inSight(runs: LevelRun[]): TextRun[] {
  const highest = Math.max(0, ...runs.map((r) => r.level));
  if (highest === 0) return runs;
  let order = runs.map((r) =>
    r.level % 2 === 1 && !RIGHT_TO_LEFT.test(r.text) ? { ...r, text: [...r.text].reverse().join("") } : r,
  );
  for (let level = highest; level > 0; level--) {
    const next: LevelRun[] = [];
    let held: LevelRun[] = [];
    for (const r of order) {
      if (r.level >= level) held.unshift(r);
      else {
        next.push(...held, r);
        held = [];
      }
    }
    order = [...next, ...held];
  }
  return order;
}
