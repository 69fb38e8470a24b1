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
  const { close, port: at } = await serve({
    file: join(folder, "wharf-tally.db"),
    port,
    host: process.env.WHARF_HOST,
    demo,
    quiet: process.env.WHARF_QUIET === "1",
  });
  console.log(`Wharf Tally listens on http://localhost:${at}`);
  for (const signal of ["SIGINT", "SIGTERM"]) process.once(signal, () => close().then(() => process.exit(0)));
} catch (e) {
  console.error(e.code === "EADDRINUSE" ? `Port ${port} is taken. Set PORT to another one.` : e);
  process.exit(1);
}
