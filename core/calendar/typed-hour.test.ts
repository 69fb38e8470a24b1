import { expect, it } from "vitest";
import { hourInField, typedHour } from "./typed-hour";

it.each([
  ["7", "07:00"],
  ["730", "07:30"],
  ["7:30", "07:30"],
  ["07.30", "07:30"],
  ["16h15", "16:15"],
  ["12 am", "00:00"],
  ["12pm", "12:00"],
  ["4:15 PM", "16:15"],
  ["24", "24:00"],
  ["1530", "15:30"],
])("%s is %s", (text, hour) => {
  expect(typedHour(text)).toBe(hour);
});
it.each(["", "25", "7:60", "24:01", "13 pm", "7:3", "noon"])("%j is no hour", (text) => {
  expect(typedHour(text)).toBeNull();
});
it("is shown without its leading nought", () => {
  expect(["07:30", "16:00", "00:15"].map(hourInField)).toEqual(["7:30", "16:00", "0:15"]);
});
