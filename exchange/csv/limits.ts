/** The largest file that is read; the page looks too, before anything is sent. */
export const MOST_BYTES = 20_000_000;
export const MOST_ROWS = 200_000;
