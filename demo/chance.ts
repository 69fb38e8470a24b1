/** A seeded generator (mulberry32), so that the company is the same every time it is made. */
export function chance(seed: number) {
  let a = seed;
  const next = () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
  return {
    next,
    between: (least: number, most: number) => least + next() * (most - least),
    whole: (least: number, most: number) => Math.floor(least + next() * (most - least + 1)),
    pick: <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!,
  };
}
