import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { create, type Font } from "fontkit";
import { plainFont } from "./woff";

/** The house's faces on paper. */
export type Face = "text" | "bold" | "mono" | "display";

/** One file of type: what it covers, and how wide its letters run. */
export interface TypeFile {
  name: string;
  /** As a plain font. */
  bytes: Buffer;
  font: Font;
}

const path = (name: string) => createRequire(import.meta.url).resolve(`@fontsource/${name}.woff`);

const ours = (weight: 400 | 700) =>
  ["latin", "latin-ext", "greek", "cyrillic", "cyrillic-ext", "vietnamese"].map(
    (subset) => `commissioner/files/commissioner-${subset}-${weight}-normal`,
  );
/** What our own families lack: ancient Greek, Hebrew, signs of measuring and reckoning, Chinese and Japanese characters. */
const others = (weight: 400 | 700) => [
  ...["latin", "latin-ext", "greek", "greek-ext", "cyrillic-ext", "vietnamese", "devanagari"].map(
    (subset) => `noto-sans/files/noto-sans-${subset}-${weight}-normal`,
  ),
  `noto-sans-hebrew/files/noto-sans-hebrew-hebrew-${weight}-normal`,
  "noto-sans-math/files/noto-sans-math-latin-400-normal",
  `noto-sans-symbols/files/noto-sans-symbols-symbols-${weight}-normal`,
  `noto-sans-sc/files/noto-sans-sc-chinese-simplified-${weight}-normal`,
];

/** Where a letter of each face is looked for, the first that has it wins. */
const CHAINS: Record<Face, readonly string[]> = {
  text: [...ours(400), ...others(400)],
  bold: [...ours(700), ...others(700)],
  mono: [
    ...["latin", "latin-ext"].map((s) => `spline-sans-mono/files/spline-sans-mono-${s}-400-normal`),
    ...ours(400),
    ...others(400),
  ],
  display: [
    ...["latin", "latin-ext", "vietnamese"].map((s) => `bricolage-grotesque/files/bricolage-grotesque-${s}-700-normal`),
    ...ours(700),
    ...others(700),
  ],
};

const opened = new Map<string, TypeFile>();
/** A file of type, opened when a letter is first looked for in it, and kept: only reading is done on it. */
function open(name: string): TypeFile {
  let file = opened.get(name);
  if (!file) {
    const bytes = plainFont(readFileSync(path(name)));
    file = { name, bytes, font: create(bytes) as Font } /* ours are single fonts, no collections */;
    opened.set(name, file);
  }
  return file;
}

const found = new Map<string, TypeFile | null>();
/** The file that has all letters of a grapheme, or null where none of ours has. */
export function fileFor(face: Face, grapheme: string): TypeFile | null {
  const key = `${face} ${grapheme}`;
  let file = found.get(key);
  if (file === undefined) {
    const letters = [...grapheme].map((c) => c.codePointAt(0)!);
    const name = CHAINS[face].find((n) => letters.every((c) => open(n).font.hasGlyphForCodePoint(c)));
    file = name === undefined ? null : open(name);
    if (found.size > 20_000) found.clear();
    found.set(key, file);
  }
  return file;
}

const widths = new Map<string, number>();
/** How wide a text runs in a file of type at a size of one point. */
export function widthIn(file: TypeFile, text: string): number {
  const key = `${file.name} ${text}`;
  let width = widths.get(key);
  if (width === undefined) {
    width = file.font.layout(text).advanceWidth / file.font.unitsPerEm;
    if (widths.size > 50_000) widths.clear();
    widths.set(key, width);
  }
  return width;
}
