import { expect, it } from "vitest";
import { dueAt, dueOf, minutesBetween, OFFICE } from "./hours";

it.each([
  ["2026-11-24T09:00:00.000Z", 4, "2026-11-24T13:00:00.000Z"],
  ["2026-11-24T14:30:00.000Z", 8, "2026-11-25T14:30:00.000Z"],
  ["2026-11-27T15:00:00.000Z", 8, "2026-11-30T15:00:00.000Z"],
  ["2026-11-28T10:00:00.000Z", 1, "2026-11-30T09:00:00.000Z"],
  ["2026-11-24T05:00:00.000Z", 16, "2026-11-25T16:00:00.000Z"],
])("asked at %s, %i working hours later is %s", (asked, hours, due) => {
  expect(dueAt(asked, hours)).toBe(due);
});

const EARLY = { works: 0b0111111, from: 360, to: 720, closed: (day: string) => day === "2026-11-25" };

it("runs by the hours, weekdays and free days of whoever is asked", () => {
  // Tuesday from 9 to 12, Wednesday off, Thursday from 6 on.
  expect(dueAt("2026-11-24T09:00:00.000Z", 5, EARLY)).toBe("2026-11-26T08:00:00.000Z");
  expect(dueAt("2026-11-28T05:00:00.000Z", 2, EARLY)).toBe("2026-11-28T08:00:00.000Z");
});

it("is due of the first who can, or of the last where all have to", () => {
  const of = (all: boolean) => dueOf("2026-11-24T09:00:00.000Z", 5, [OFFICE, EARLY], all);
  expect(of(false)).toBe("2026-11-24T14:00:00.000Z");
  expect(of(true)).toBe("2026-11-26T08:00:00.000Z");
});

it("counts the working time between two moments", () => {
  expect(minutesBetween("2026-11-27T15:00:00.000Z", "2026-11-30T09:30:00.000Z")).toBe(150);
  expect(minutesBetween("2026-11-24T09:00:00.000Z", "2026-11-24T09:00:00.000Z")).toBe(0);
});

it("ends after a year where nobody ever comes", () => {
  expect(dueAt("2026-11-24T09:00:00.000Z", 5, { ...OFFICE, closed: () => true })).toBe("2026-11-24T09:00:00.000Z");
});
