import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, toDay } from "./day";
import { dayExample, dayInField, typedDay } from "./typed-day";

const TODAY = toDay("2026-11-24"); // a Tuesday

describe("a day that is typed", () => {
  it.each([
    ["2026-12-10", "en-GB", "2026-12-10"],
    ["10/12/2026", "en-GB", "2026-12-10"],
    ["10/12/2026", "en-US", "2026-10-12"],
    ["10.12.26", "de-DE", "2026-12-10"],
    ["2026/12/10", "sv-SE", "2026-12-10"],
    ["1012", "en-GB", "2026-12-10"],
    ["101226", "en-GB", "2026-12-10"],
    ["10122027", "en-GB", "2027-12-10"],
    ["10/12", "en-GB", "2026-12-10"],
    ["23/11", "en-GB", "2027-11-23"],
    ["24/11", "en-GB", "2026-11-24"],
    ["29/2", "en-GB", "2028-02-29"],
    ["10 dec", "en-GB", "2026-12-10"],
    ["Dec 10 27", "en-US", "2027-12-10"],
    ["10. Dezember 2026", "de-DE", "2026-12-10"],
    ["10 mars", "fr-FR", "2027-03-10"],
    ["today", "en-GB", "2026-11-24"],
    ["Tomorrow", "en-GB", "2026-11-25"],
    ["+7", "en-GB", "2026-12-01"],
    ["fri", "en-GB", "2026-11-27"],
    ["tuesday", "en-GB", "2026-12-01"],
  ])("%s (%s) is %s", (text, locale, day) => {
    expect(typedDay(text, TODAY, locale)).toBe(day);
  });

  it.each([
    "",
    "  ",
    "31/2",
    "31/02/2026",
    "10/13/2026",
    "99",
    "10/12/202",
    "soon",
    "10 dec dec",
    "1/1/1999",
    "10-12-2026-1",
  ])("%j is none", (text) => {
    expect(typedDay(text, TODAY, "en-GB")).toBeNull();
  });

  it("is read back from what a field shows, in any locale", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -9_000, max: 26_000 }),
        fc.constantFrom("en-GB", "en-US", "de-DE", "fr-FR", "nl-NL", "sv-SE", "fi-FI", "pl-PL", "pt-PT"),
        (n, locale) => {
          const day = addDays(TODAY, n);
          expect(typedDay(dayInField(day, locale), TODAY, locale)).toBe(day);
          expect(typedDay(dayExample(day, locale), TODAY, locale)).toBe(day);
        },
      ),
    );
  });
});
