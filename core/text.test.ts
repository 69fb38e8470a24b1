import { expect, it } from "vitest";
import { may, ROLES } from "./people/roles";
import { count, inOrder, plainText, unitWords } from "./text";

it("counts and names units as people do", () => {
  expect([count(1, "line"), count(3, "line"), count(2, "person", "people")]).toEqual(["1 line", "3 lines", "2 people"]);
  expect([
    unitWords(80_000, "drum"),
    unitWords(10_000, "drum"),
    unitWords(30_000, "box"),
    unitWords(3_400_000, "L"),
    unitWords(120_000, "each"),
  ]).toEqual(["drums", "drum", "boxes", "L", "each"]);
});

it("keeps text plain, line ends and letters of every language aside", () => {
  expect(plainText(" Bøye\u0000\u0007 for\n‘Łódź’\t ")).toBe("Bøye for\n‘Łódź’");
  expect(plainText("a\uFFFEb\uFFFFc\uD83Dd\u{1FFFE}e 🚢")).toBe("abcde 🚢");
});

it("sorts as plain text", () => {
  expect(["b", "a", "2026-12-01", "2026-11-30"].sort(inOrder)).toEqual(["2026-11-30", "2026-12-01", "a", "b"]);
});

it("keeps prices from the dock, and every act from the auditor", () => {
  expect([
    may(["dock hand"], "see prices"),
    may(["dock hand"], "see orders"),
    may(["dock hand"], "see suppliers"),
  ]).toEqual([false, false, false]);
  for (const act of [
    "ask",
    "plan",
    "write orders",
    "sign",
    "place",
    "count in",
    "load files",
    "keep people",
    "keep settings",
  ] as const)
    expect(may(["auditor"], act)).toBe(false);
  for (const role of ROLES) expect(may([role], "keep own inbox")).toBe(true);
});
