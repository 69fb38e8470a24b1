import type { Db } from "../server/db/open";
/** The median of several runs, in milliseconds, after one or more to warm up. */
export function time(run: () => unknown, runs = 15): number {
  for (let i = 0; i < Math.max(1, Math.floor(runs / 4)); i++) run();
  const taken = Array.from({ length: runs }, () => {
    const from = performance.now();
    run();
    return performance.now() - from;
  }).sort((a, b) => a - b);
  return taken[Math.floor(runs / 2)]!;
}

export function print(what: string, took: number, floor: number, aim: number, floorIs = "floor"): void {
  const ratio = took / floor;
  const verdict = ratio <= aim ? "reached" : "not reached";
  console.log(
    `${what.padEnd(46)} ${took.toFixed(2).padStart(9)} ms  ${floorIs} ${floor.toFixed(2).padStart(9)} ms  ratio ${ratio.toFixed(2).padStart(5)}  aim ${aim} ${verdict}`,
  );
}

/** What is done and taken back, in milliseconds without the taking back. */
export function tried(db: Db, run: () => void): number {
  let took = 0;
  try {
    db.transaction(() => {
      const from = performance.now();
      run();
      took = performance.now() - from;
      throw new Error("taken back");
    })();
  } catch (e) {
    if (!(e instanceof Error) || e.message !== "taken back") throw e;
  }
  return took;
}
export const median = (runs: number, one: () => number): number =>
  Array.from({ length: runs }, one).sort((a, b) => a - b)[Math.floor(runs / 2)]!;
