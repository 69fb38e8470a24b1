import { spawnSync } from "node:child_process";
import { existsSync, readdirSync, rmSync, statSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

/** Runs a command and stops everything where it fails. */
export function run(what, command, args) {
  console.log(what);
  const { status } = spawnSync(command, args, { stdio: "inherit", shell: process.platform === "win32" });
  if (status !== 0) {
    console.error(`This failed: ${command} ${args.join(" ")}`);
    process.exit(status ?? 1);
  }
}

/** The newest change at or below these places, as a time; 0 where nothing is there. */
function newest(...places) {
  let at = 0;
  for (const place of places) {
    if (!existsSync(place)) continue;
    const s = statSync(place);
    at = Math.max(at, s.isDirectory() ? newest(...readdirSync(place).map((f) => join(place, f))) : s.mtimeMs);
  }
  return at;
}

/** Stands there while packages are installed whose own scripts, such as compiling the database, have not run yet. */
const UNCOMPILED = "node_modules/.uncompiled";

/** What runs the scripts of packages that were installed without. */
export const COMPILE = ["npm", ["rebuild"]];
export const compiled = () => rmSync(UNCOMPILED, { force: true });

/** Goes to the project's folder and installs what is missing. Returns whether packages are left to be compiled by the caller. */
export function install({ compile = true } = {}) {
  process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
  if (
    !existsSync("node_modules/.package-lock.json") ||
    newest("package-lock.json") > newest("node_modules/.package-lock.json")
  ) {
    // Not "npm ci": that fails where a registry lacks another platform's optional package, which nobody here needs.
    run("Installing what is missing; the first time takes a few minutes…", "npm", [
      "install",
      "--no-save",
      "--no-audit",
      "--no-fund",
      "--ignore-scripts",
    ]);
    writeFileSync(UNCOMPILED, "");
  }
  if (!existsSync(UNCOMPILED)) return false;
  if (!compile) return true;
  run("Compiling what was installed…", ...COMPILE);
  compiled();
  return false;
}

/** Installs what is missing, and builds what has changed. */
export function prepare() {
  install();
  const built = newest("build/server/index.js");
  if (built < newest("app", "core", "server", "exchange", "public", "package-lock.json", "vite.config.ts")) {
    run("Building…", "npx", ["react-router", "build"]);
  }
}
