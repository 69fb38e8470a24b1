/** The largest file that is read; the page looks too, before anything is sent. */
export const MOST_BYTES = 20_000_000;
export const MOST_ROWS = 200_000;
export const MOST_COLUMNS = 200;
/** Characters in one row: what is longer has a quotation mark that is not closed, or is no table. */
export const MOST_IN_A_ROW = 200_000;
/** Faults that an answer lists; how many there are, it says. */
export const MOST_FAULTS = 200;
/** What a workbook may unpack to, and how many of its cells are read. */
export const MOST_UNPACKED = 400_000_000;
export const MOST_CELLS = 5_000_000;
