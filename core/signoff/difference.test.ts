import { expect, it } from "vitest";
import { differences } from "./difference";

const line = (words: string, quantity: string, minor: number) => ({ words, quantity, minor });

it("finds what is new, gone and different, and leaves out what is the same", () => {
  const before = [line("Oil", "8 drum", 499_600), line("Rope", "1 coil", 129_800), line("Freight", "1", 9_500)];
  const after = [line("Oil", "10 drum", 588_000), line("Freight", "1", 9_500), line("Anodes", "4", 12_480)];
  expect(differences(before, after)).toEqual([
    { words: "Oil", was: { quantity: "8 drum", minor: 499_600 }, now: { quantity: "10 drum", minor: 588_000 } },
    { words: "Anodes", was: null, now: { quantity: "4", minor: 12_480 } },
    { words: "Rope", was: { quantity: "1 coil", minor: 129_800 }, now: null },
  ]);
  expect(differences(before, before)).toEqual([]);
});

it("takes two lines of the same words one after the other", () => {
  const two = [line("Oil", "1", 100), line("Oil", "2", 200)];
  expect(differences(two, [line("Oil", "1", 100)])).toEqual([
    { words: "Oil", was: { quantity: "2", minor: 200 }, now: null },
  ]);
});
