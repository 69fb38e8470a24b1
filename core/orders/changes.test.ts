import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { changedSchedule } from "./changes";
import type { Scheduled } from "./schedule";

const row = (quantity: number, required: string, promised: string | null, received = 0): Scheduled => ({
  quantity,
  required: toDay(required),
  promised: promised === null ? null : toDay(promised),
  received,
  closedShort: 0,
});
const part = (quantity: number, day: string) => ({ quantity, day: toDay(day) });
const short = (rows: Scheduled[]) => rows.map((r) => [r.quantity, r.required, r.promised, r.received, r.closedShort]);

describe("a line of which we ask for something else", () => {
  it("keeps the promise of days that stay, and asks anew for the others", () => {
    const standing = [row(30, "2026-12-01", "2026-12-04"), row(20, "2026-12-01", "2026-12-31")];
    expect(short(changedSchedule(standing, [part(30, "2026-12-04"), part(20, "2026-12-10")]))).toEqual([
      [30, "2026-12-01", "2026-12-04", 0, 0],
      [20, "2026-12-10", null, 0, 0],
    ]);
  });
  it("merges and splits, and leaves what came where it was", () => {
    const standing = [row(30, "2026-12-01", "2026-12-04", 10), row(20, "2026-12-20", null)];
    const merged = changedSchedule(standing, [part(40, "2026-12-20")]);
    expect(short(merged)).toEqual([
      [10, "2026-12-01", "2026-12-04", 10, 0],
      [20, "2026-12-20", null, 0, 0],
      [20, "2026-12-20", null, 0, 0],
    ]);
    expect(merged.reduce((n, r) => n + r.quantity, 0)).toBe(50);
  });
  it("is closed where nothing more of it is wanted", () => {
    expect(short(changedSchedule([row(30, "2026-12-01", null)], []))).toEqual([[30, "2026-12-01", null, 0, 30]]);
  });
});
