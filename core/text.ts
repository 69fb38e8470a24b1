/** Text without what is no character (line ends stay; half pairs, and code points that XML cannot hold, go), trimmed. */
export const plainText = (s: string) => s.replace(/(?!\n)\p{Cc}|\p{Cs}|\p{Noncharacter_Code_Point}/gu, "").trim();

/** A quantity's unit in a sentence: "8 drums", "1 box", but "340 L" and "12 each". */
export function unitWords(tenThousandths: number, unit: string): string {
  if (tenThousandths === 10_000 || unit === "each" || unit.length <= 2) return unit;
  return /(s|x|ch|sh)$/.test(unit) ? `${unit}es` : `${unit}s`;
}

/** For sorting codes and days as plain text: a hundred times quicker than asking a locale. */
export const inOrder = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/** "1 line", "3 lines". */
export const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;
