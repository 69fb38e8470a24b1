import { expect, it } from "vitest";
import { monthEnd, monthStart, toDay } from "../calendar/day";
import { balances } from "../stock/posting";
import { accrualPostings, closable } from "./books";

it("months end where the calendar says, leap years too", () => {
  expect(["2026-11-24", "2024-02-01", "2026-02-28", "2026-12-31"].map((d) => monthEnd(toDay(d)))).toEqual([
    "2026-11-30",
    "2024-02-29",
    "2026-02-28",
    "2026-12-31",
  ]);
  expect(monthStart(toDay("2026-11-24"))).toBe("2026-11-01");
});

it("only months that are over can be closed, the running one on its last day not yet", () => {
  const of = (from: string, today: string) => closable(toDay(from), toDay(today));
  expect(of("2026-09-03", "2026-11-24")).toEqual(["2026-09-30", "2026-10-31"]);
  expect(of("2026-11-01", "2026-11-30")).toEqual([]);
  expect(of("2026-11-01", "2026-12-01")).toEqual(["2026-11-30"]);
  expect(closable(null, toDay("2026-11-24"))).toEqual([]);
});

it("what is accrued balances, by account, and nothing is no entry", () => {
  const postings = accrualPostings([
    { line: 1, account: "4620", minor: 95_00 },
    { line: 2, account: null, minor: 12_00 },
    { line: 3, account: null, minor: 0 },
  ]);
  expect(postings.map((p) => [p.role, p.account, p.minor])).toEqual([
    ["expense", "4620", 95_00],
    ["expense", null, 12_00],
    ["accrued", null, -107_00],
  ]);
  expect(balances(postings)).toBe(true);
  expect(accrualPostings([])).toEqual([]);
});
