// Serves Wharf Tally from what `npm run build` made. Settings come from the environment; the README lists them.
import { existsSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";

const home = dirname(dirname(fileURLToPath(import.meta.url)));
const bundle = join(home, "build/server/index.js");
if (!existsSync(bundle)) {
  console.error("The application has not been built yet. Run: npm run build");
  process.exit(1);
}
process.env.NODE_ENV ??= "production";
const { serve } = await import(bundle);

const demo = process.env.WHARF_DEMO === "1";
const folder = resolve(home, process.env.WHARF_DATA ?? (demo ? "data/demo" : "data"));
const port = Number(process.env.PORT ?? 4470);
try {
  const {
    close,
    port: at,
    setUpCode,
  } = await serve({
    file: join(folder, "wharf-tally.db"),
    port,
    host: process.env.WHARF_HOST,
    demo,
    quiet: process.env.WHARF_QUIET === "1",
  });
  console.log(`Wharf Tally listens on http://localhost:${at}`);
  if (setUpCode && !process.env.WHARF_SETUP_CODE)
    console.log(`To set the company up, this code is asked for: ${setUpCode}`);
  for (const signal of ["SIGINT", "SIGTERM"]) process.once(signal, () => close().then(() => process.exit(0)));
} catch (e) {
  console.error(sentenceOf(e));
  process.exit(1);
}

/** Why it did not start, for whoever looks after the server. */
function sentenceOf(e) {
  if (e.code === "EADDRINUSE") return `Port ${port} is taken. Set PORT to another one.`;
  if (
    e.code === "EACCES" ||
    e.code === "EPERM" ||
    e.code === "EROFS" ||
    e.code === "SQLITE_CANTOPEN" ||
    e.code === "SQLITE_READONLY"
  )
    return `The folder ${folder} cannot be written by whoever runs this. Give it the right, or set WHARF_DATA to another folder.`;
  if (e.code === "ENOSPC" || e.code === "SQLITE_FULL") return `There is no room left on the disk of ${folder}.`;
  if (String(e.code).startsWith("SQLITE_BUSY"))
    return `Another program works on the file in ${folder}. Is Wharf Tally running already?`;
  return `Wharf Tally did not start: ${e.message ?? e}`;
}
