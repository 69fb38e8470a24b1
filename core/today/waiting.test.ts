import { expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { rank, type Waiting } from "./waiting";

const thing = (key: string, cost: Waiting["cost"], by: string | null): Waiting => ({
  key,
  cost,
  by: by ? toDay(by) : null,
  title: key,
  detail: "",
  ifItStays: "",
  stop: "Needs",
  href: "/",
});

it("puts a waiting vessel before a price that could be better, and the later before the late", () => {
  const ranked = rank(
    [
      thing("draft", "an order stands still", "2026-11-01"),
      thing("anodes", "a vessel waits", "2026-12-04"),
      thing("rope", "a vessel waits", "2026-11-20"),
      thing("oil", "it must be sent today", null),
    ],
    toDay("2026-11-24"),
  );
  expect(ranked.map((r) => [r.key, r.daysLate])).toEqual([
    ["rope", 4],
    ["anodes", 0],
    ["oil", 0],
    ["draft", 23],
  ]);
});
