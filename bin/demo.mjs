// Everything on a fresh machine: installs what is missing, builds, makes the demo company on first start, and serves it.
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, statSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const home = dirname(dirname(fileURLToPath(import.meta.url)));
process.chdir(home);

function run(what, command, args, env = {}) {
  console.log(what);
  const { status } = spawnSync(command, args, {
    stdio: "inherit",
    env: { ...process.env, ...env },
    shell: process.platform === "win32",
  });
  if (status !== 0) {
    console.error(`This failed: ${command} ${args.join(" ")}`);
    process.exit(status ?? 1);
  }
}

/** The newest change below these folders, as a time. */
function newest(...paths) {
  let at = 0;
  for (const path of paths) {
    if (!existsSync(path)) continue;
    const s = statSync(path);
    at = Math.max(at, s.isDirectory() ? newest(...readdirSync(path).map((f) => join(path, f))) : s.mtimeMs);
  }
  return at;
}

if (
  !existsSync("node_modules/.package-lock.json") ||
  newest("package-lock.json") > newest("node_modules/.package-lock.json")
) {
  run("Installing what is missing; the first time takes a few minutes…", "npm", ["ci"]);
}
if (
  newest("build/server/index.js") <
  newest("app", "core", "server", "exchange", "package-lock.json", "vite.config.ts", "public")
) {
  run("Building…", "npx", ["react-router", "build"]);
}
mkdirSync("data", { recursive: true });
const fresh = process.argv.includes("--fresh");
const file = join(process.env.WHARF_DATA ?? "data/demo", "wharf-tally.db");
run("Looking after the demo company…", "npx", ["tsx", "demo/load.ts", file, ...(fresh ? ["--fresh"] : [])]);
process.env.WHARF_DEMO = "1";
await import("./serve.mjs");
