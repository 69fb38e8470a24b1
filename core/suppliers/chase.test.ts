import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { mayAskAgain, needsWord } from "./chase";

const RULE = { confirmHours: 16, announceDays: 3, againDays: 5, byClock: false };
const today = toDay("2026-11-24"); // a Tuesday
const order = (placed: string, silent: boolean, due: string) => ({ placed, silent, due: toDay(due) });
const at = `${today}T15:00:00.000Z`;

describe("what an order needs a word about", () => {
  it.each([
    [
      "placed yesterday morning, 16 working hours are not over",
      order("2026-11-23T09:00:00.000Z", true, "2026-12-10"),
      null,
    ],
    ["placed on Friday morning, they are", order("2026-11-20T09:00:00.000Z", true, "2026-12-10"), "confirm"],
    ["confirmed, due within three days", order("2026-11-02T09:00:00.000Z", false, "2026-11-27"), "announce"],
    ["confirmed, due later", order("2026-11-02T09:00:00.000Z", false, "2026-11-28"), null],
    ["due yesterday, confirmed or not", order("2026-11-02T09:00:00.000Z", true, "2026-11-23"), "overdue"],
  ])("%s", (_name, awaited, says) => {
    expect(needsWord(awaited, RULE, at, today)).toBe(says);
  });

  it("nobody is asked about the same again before its days are over", () => {
    expect([null, toDay("2026-11-19"), toDay("2026-11-20")].map((d) => mayAskAgain(d, RULE, today))).toEqual([
      true,
      true,
      false,
    ]);
  });
});
