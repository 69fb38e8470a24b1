import { existsSync, mkdirSync, rmSync } from "node:fs";
import { toDay } from "../core/calendar/day";
import { ensureDemo } from "../demo/load";

export const DAY = "2026-11-24";
export const DEMO = "tests/.out/demo.db";

/** Makes the demo company once; each test house works on a copy of it. */
export default async function start(): Promise<void> {
  if (!existsSync("build/server/index.js")) throw new Error("Build first: npm run build");
  mkdirSync("tests/.out", { recursive: true });
  for (const end of ["", "-wal", "-shm"]) rmSync(DEMO + end, { force: true });
  await ensureDemo(DEMO, toDay(DAY));
}
