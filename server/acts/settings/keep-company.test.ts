import { describe, expect, it } from "vitest";
import { decimalMarkOf } from "../../../core/numbers/format";
import { LOCALES } from "./keep-company";

describe("how figures are written here", () => {
  it("offers what is written as it is typed: with a decimal point", () => {
    expect(LOCALES.filter((l) => decimalMarkOf(l) !== ".")).toEqual([]);
    expect(["de-DE", "fr-FR", "nl-NL"].map(decimalMarkOf)).toEqual([",", ",", ","]);
  });
});
