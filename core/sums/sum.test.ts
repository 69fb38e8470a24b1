import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { amount, comesOut, figureText, onDay, percent, price, quantity, type Step, words } from "./sum";

const sum = (...steps: [Step["op"], number, string?][]) => ({
  title: "",
  steps: steps.map(([op, n, unit = "L"]) => ({ op, label: "", figure: quantity(n, unit) })),
});

describe("a sum", () => {
  it("comes out only where every line follows", () => {
    expect(comesOut(sum(["", 340], ["−", 260], ["+", 0], ["=", 80]))).toBe(true);
    expect(comesOut(sum(["", 340], ["−", 260], ["=", 81]))).toBe(false);
    expect(
      comesOut(sum(["", 340], ["·", 5], ["→", 1600], ["÷", 200], ["=", 8, "drum"], ["+", 1, "drum"], ["=", 9, "drum"])),
    ).toBe(true);
    expect(comesOut(sum(["", 1], ["÷", 200], ["=", 8, "drum"], ["=", 7, "drum"]))).toBe(false);
  });

  it("writes each kind of figure exactly", () => {
    expect(
      [
        quantity(31_000, "drum"),
        amount(415_555, "EUR"),
        price(12_500, "EUR", "each"),
        percent(150),
        onDay(toDay("2026-12-04")),
        words("above"),
      ].map(figureText),
    ).toEqual(["3.1 drum", "4155.55 EUR", "0.0125 EUR/each", "1.5 %", "2026-12-04", "above"]);
  });
});
