import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { asText, notFormula } from "./not-formula";

describe("text in a file that spreadsheets open", () => {
  it("is never worked out, and negative numbers stay numbers", () => {
    for (const text of ["=1+1", "+1", "@SUM(A1)", "-2+3+cmd|' /C calc'!A0", "-x", "\tx", " =1", "- 2"])
      expect(notFormula(text)).toBe(`'${text}`);
    for (const text of ["-2", "-2.5", "-2,5", "2-3", "Ines", "", 7, null]) expect(notFormula(text)).toBe(text);
  });

  it("comes back as it was", () => {
    const part = fc.constantFrom("'", "=", "-", "+", "@", "\t", " ", "a", "2", ".");
    fc.assert(
      fc.property(fc.array(part, { maxLength: 6 }), (parts) => {
        const text = parts.join("");
        expect(asText(notFormula(text))).toBe(text);
      }),
      { numRuns: 2_000 },
    );
  });
});
