import { heightOf, INK, QUIET, RULE, type Sheets } from "./sheets";
import type { SetLine, Style } from "./typeset";

/** The styles of all papers of the house. */
export const PLAIN: Style = { face: "text", size: 9, color: INK };
export const BOLD: Style = { ...PLAIN, face: "bold" };
export const CODES: Style = { face: "mono", size: 7.5, color: QUIET };
export const FIGURE: Style = { face: "mono", size: 8.5, color: INK, align: "right" };
export const HEAD: Style = { face: "text", size: 8, color: QUIET };
export const right = (style: Style): Style => ({ ...style, align: "right" });

/** The company's own sign: a PNG or JPEG picture. */
export interface Logo {
  type: string;
  bytes: Buffer;
}

/** Who writes, what the paper is, and of which day. */
export function letterhead(
  p: Sheets,
  of: { company: { name: string; address: string }; title: string; day: string; logo?: Logo | null },
): void {
  const half = p.width / 2;
  const top = p.y;
  const name = p.set(of.company.name, { face: "display", size: 15, color: INK }, half - 40);
  const address = p.set(of.company.address, { ...PLAIN, color: QUIET }, half);
  const title = p.set(of.title, { face: "display", size: 20, color: INK, align: "right" }, half);
  const day = p.set(of.day, { ...PLAIN, color: QUIET, align: "right" }, half);
  let y = top;
  if (of.logo) {
    p.picture(Buffer.from(of.logo.bytes), of.company.name, [130, 40]);
    y += 44;
  } else p.mark(p.left, top);
  const inset = of.logo ? 0 : 33;
  p.tag("P", null, () => {
    y = p.draw(name, p.left + inset, y, half) + 4;
    y = p.draw(address, p.left, y, half);
  }).end();
  let beside = top;
  p.tag("H1", null, () => {
    beside = p.draw(title, p.left + half, top, half);
  }).end();
  p.tag("P", null, () => {
    beside = p.draw(day, p.left + half, beside, half);
  }).end();
  p.y = Math.max(y, beside) + 8;
  p.rule(p.y, 2);
}

export interface Block {
  title: string;
  lines: (string | null | undefined)[];
}

/** Short facts side by side, the first of each in bold; as many in a row as are given. */
export function blocks(p: Sheets, facts: readonly Block[], ruled = false): void {
  const GAP = 22;
  const width = (p.width - GAP * (facts.length - 1)) / facts.length;
  if (ruled) p.rule(p.y, 1, RULE);
  p.y += ruled ? 6 : 14;
  const set = facts.map(({ title, lines }): SetLine[] => {
    const [first, ...rest] = lines.filter((l): l is string => !!l);
    return [
      ...p.set(title, HEAD, width),
      ...p.set(first ?? "–", BOLD, width),
      ...rest.flatMap((l) => p.set(l, PLAIN, width)),
    ];
  });
  const height = Math.max(...set.map(heightOf));
  p.room(height);
  const top = p.y;
  set.forEach((lines, i) => {
    p.tag("P", null, () => p.draw(lines, p.left + i * (width + GAP), top, width)).end();
  });
  p.y = top + height + (ruled ? 6 : 14);
  if (ruled) {
    p.rule(p.y, 1, RULE);
    p.y += 14;
  }
}

/** A text with a bar beside it, such as a note to the supplier. */
export function note(p: Sheets, text: string, style: Style = PLAIN): void {
  p.y += 14;
  p.paragraph(p.set(text, style, p.width - 11), { x: p.left + 11, width: p.width - 11, bar: true });
}

/** Says which letters of a paper are printed as an empty box, where there are any. */
export function sayMissing(p: Sheets, says: (letters: string) => string): void {
  if (p.missing.size === 0) return;
  const codes = [...p.missing]
    .slice(0, 12)
    .map((g) => [...g].map((c) => `U+${c.codePointAt(0)!.toString(16).toUpperCase().padStart(4, "0")}`).join(" "));
  note(p, says(codes.join(", ") + (p.missing.size > 12 ? " …" : "")), CODES);
}
