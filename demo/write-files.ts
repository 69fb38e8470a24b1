// Writes the example files of demo/files anew: npx tsx demo/write-files.ts
import { mkdirSync, writeFileSync } from "node:fs";
import { toDay } from "../core/calendar/day";
import { FILE_KINDS } from "../exchange/csv/kinds";
import { demoFile } from "./files";

mkdirSync("demo/files", { recursive: true });
for (const kind of FILE_KINDS) {
  const text = demoFile(kind, toDay("2026-11-24"));
  if (text.trim().includes("\n")) writeFileSync(`demo/files/${kind}.csv`, text);
}
