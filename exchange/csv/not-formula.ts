/** What a spreadsheet would work out: begins like a formula, and is no number. */
const FORMULA = /^\s*[=+@]|^[\t\r]|^\s*-(?!\d+([.,]\d+)?\s*$)/;

/** Text that a spreadsheet would take for a formula is said to be text; a negative number stays one. */
export const notFormula = <C>(cell: C): C | string =>
  typeof cell === "string" && (FORMULA.test(cell) || /^'+\s*[=+@\t\r'-]/.test(cell)) ? `'${cell}` : cell;

/** The same text again, as it was before it went into a file. */
export const asText = (cell: string): string => (/^'\s*[=+@\t\r'-]/.test(cell) ? cell.slice(1) : cell);
