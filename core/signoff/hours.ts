const OPEN = 8;
const CLOSE = 16;

/**
 * The moment by which something asked for should be done, in working hours: 8 to 16 UTC, Monday to Friday, so that a
 * weekend makes nobody late.
 */
export function dueAt(asked: string, hours: number): string {
  const at = new Date(asked);
  let left = hours * 60;
  for (let guard = 0; guard < 2000; guard++) {
    const weekend = at.getUTCDay() === 0 || at.getUTCDay() === 6;
    if (weekend || at.getUTCHours() >= CLOSE) {
      at.setUTCDate(at.getUTCDate() + 1);
      at.setUTCHours(OPEN, 0, 0, 0);
      continue;
    }
    if (at.getUTCHours() < OPEN) at.setUTCHours(OPEN, 0, 0, 0);
    const room = (CLOSE - at.getUTCHours()) * 60 - at.getUTCMinutes();
    if (left <= room) {
      at.setUTCMinutes(at.getUTCMinutes() + left);
      return at.toISOString();
    }
    left -= room;
    at.setUTCHours(CLOSE, 0, 0, 0);
  }
  return at.toISOString();
}
