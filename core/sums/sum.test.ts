import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { amount, comesOut, type Figure, figureText, onDay, percent, price, quantity, type Step, words } from "./sum";

const sum = (...steps: [Step["op"], number, string?][]) => ({
  title: "",
  steps: steps.map(([op, n, unit = "L"]) => ({ op, label: "", figure: quantity(n, unit) })),
});

describe("a sum", () => {
  it("comes out only where every line follows", () => {
    expect(comesOut(sum(["", 340], ["−", 260], ["+", 0], ["=", 80]))).toBe(true);
    expect(comesOut(sum(["", 340], ["−", 260], ["=", 81]))).toBe(false);
    expect(
      comesOut(
        sum(
          ["", 340],
          ["·", 5],
          ["→", 16_000_000],
          ["÷", 2_000_000],
          ["=", 80_000, "drum"],
          ["+", 1, "drum"],
          ["=", 80_001, "drum"],
        ),
      ),
    ).toBe(true);
    expect(comesOut(sum(["", 80_000], ["÷", 20_000], ["=", 40_000, "drum"], ["=", 40_001, "drum"]))).toBe(false);
  });

  it("refuses a wrong figure after × and ÷, and takes one that is rounded to its own step", () => {
    const by = (figure: Figure, result: Figure): boolean =>
      comesOut({
        title: "",
        steps: [
          { op: "", label: "", figure: amount(1_000, "EUR") },
          { op: "÷", label: "", figure },
          { op: "=", label: "", figure: result },
        ],
      });
    expect(by(quantity(30_000, "L"), amount(333, "EUR"))).toBe(true);
    expect(by(quantity(30_000, "L"), amount(334, "EUR"))).toBe(false);
    expect(by(quantity(30_000, "L"), price(3_333_333, "EUR", "L"))).toBe(true);
    expect(by(quantity(30_000, "L"), price(3_333_334, "EUR", "L"))).toBe(false);
    expect(by(words("as said"), amount(7, "EUR"))).toBe(true);
    expect(comesOut(sum(["", 50_000], ["×", 20_000], ["=", 100_000]))).toBe(true);
    expect(comesOut(sum(["", 50_000], ["×", 20_000], ["=", 99_999]))).toBe(false);
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
