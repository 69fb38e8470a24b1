import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { fillPlaceholders, PLACEHOLDERS, type Placeholder, unknownPlaceholders } from "./papers";

describe("a text with placeholders", () => {
  it("says what it stands for", () => {
    expect(fillPlaceholders("Order {number} of {lines}", { number: "26-1192", lines: "2 lines" })).toBe(
      "Order 26-1192 of 2 lines",
    );
  });

  it("leaves out a line that has nothing to say", () => {
    const text = "Good day,\n\nread it here: {link}\n\nWith kind regards\n{writer}\n{function}";
    expect(fillPlaceholders(text, { writer: "Ines Rathmore" })).toBe("Good day,\n\nWith kind regards\nInes Rathmore");
  });

  it("keeps a value as it is, even where it looks like a placeholder", () => {
    expect(fillPlaceholders("To {supplier}", { supplier: "{number} & Sons" })).toBe("To {number} & Sons");
  });

  it("names what it does not know, once each", () => {
    expect(unknownPlaceholders("{number} {nummer} { number } {nummer} {}")).toEqual(["nummer", " number ", ""]);
    expect(
      unknownPlaceholders(
        Object.keys(PLACEHOLDERS)
          .map((p) => `{${p}}`)
          .join(" "),
      ),
    ).toEqual([]);
  });

  it("never leaves a known placeholder standing, whatever is around it", () => {
    const names = Object.keys(PLACEHOLDERS) as Placeholder[];
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.constantFrom(...names.map((n) => `{${n}}`)),
            fc.string().map((s) => s.replace(/[{}]/g, "")),
          ),
        ),
        fc.constantFrom("", "x"),
        (parts, value) => {
          const values = Object.fromEntries(names.map((n) => [n, value]));
          expect(fillPlaceholders(parts.join(" "), values)).not.toMatch(/[{}]/);
        },
      ),
    );
  });
});
