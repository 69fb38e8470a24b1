import { expect, it } from "vitest";
import { reportPdf } from "./report-paper";
import { wordsOn } from "./testing";

it("prints a table whose figures go on below where they do not fit, with names and totals each time", async () => {
  const months = Array.from({ length: 12 }, (_, i) => `month ${i + 1}`);
  const pdf = await reportPdf({
    title: "Where the money went",
    company: { name: "Kelp & Sons", address: "Quay 1" },
    day: "2026-11-24",
    locale: "en-GB",
    facts: [{ title: "Days", lines: ["1 Jan to 31 Dec"] }],
    tables: [
      {
        title: "Received, by supplier",
        heads: ["supplier", ...months, "total"],
        rows: [["Norrvik Rope", ...months.map((_, i) => String(100 + i)), "1,266"]],
        total: ["all", ...months.map((_, i) => String(100 + i)), "1,266"],
      },
    ],
    notes: ["At the rate of the paper."],
  });
  const text = (await wordsOn(pdf)).join(" ");
  for (const word of ["Kelp & Sons", ...months, "1,266", "continued", "At the rate of the paper."])
    expect(text).toContain(word);
  expect(text.split("Norrvik Rope")).toHaveLength(1 + Math.ceil(13 / 5));
});
