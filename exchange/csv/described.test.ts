import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
import { COLUMNS, FILE_KINDS } from "./kinds";

it("describes every column of every file in docs/exchange.md as it is read", () => {
  const text = readFileSync("docs/exchange.md", "utf8");
  for (const kind of FILE_KINDS) {
    const part = text.split(`### ${kind}\n`)[1]?.split("\n### ")[0] ?? "";
    const rows = part.split("\n").filter((l) => l.startsWith("| `"));
    expect(rows, kind).toEqual(COLUMNS[kind].map((c) => `| \`${c.name}\` | ${c.required ? "yes" : ""} | ${c.hint} |`));
  }
});
