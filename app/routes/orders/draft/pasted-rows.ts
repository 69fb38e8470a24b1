/** Rows of a spreadsheet: code, quantity, price, day, and what else is a note; a first row of words is its head. */
export function pastedRows(text: string): Record<string, string>[] {
  const rows = text
    .replace(/\r\n?/g, "\n")
    .split("\n")
    .filter((r) => r.trim())
    .map((r) => r.split("\t").map((c) => c.trim()));
  const headed = rows.length > 1 && rows[0]!.length > 1 && !rows[0]!.some((c) => /\d/.test(c));
  return rows.slice(headed ? 1 : 0).map(([code = "", quantity = "", price = "", required = "", ...note]) => ({
    code,
    quantity,
    price,
    required,
    note: note.join(" ").trim(),
  }));
}
