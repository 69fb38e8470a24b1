import { expect, it } from "vitest";
import { dueAt } from "./hours";

it.each([
  ["2026-11-24T09:00:00.000Z", 4, "2026-11-24T13:00:00.000Z"],
  ["2026-11-24T14:30:00.000Z", 8, "2026-11-25T14:30:00.000Z"],
  ["2026-11-27T15:00:00.000Z", 8, "2026-11-30T15:00:00.000Z"],
  ["2026-11-28T10:00:00.000Z", 1, "2026-11-30T09:00:00.000Z"],
  ["2026-11-24T05:00:00.000Z", 16, "2026-11-25T16:00:00.000Z"],
])("asked at %s, %i working hours later is %s", (asked, hours, due) => {
  expect(dueAt(asked, hours)).toBe(due);
});
