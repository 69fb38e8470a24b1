/** Text that a spreadsheet would take for a formula is said to be text. */
export const notFormula = <C>(cell: C): C | string =>
  typeof cell === "string" && /^[=+@\t\r]|^-(?!\d)/.test(cell) ? `'${cell}` : cell;
