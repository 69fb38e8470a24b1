// Everything that must pass, from a fresh clone: npm test
import { spawnSync } from "node:child_process";
import { mkdirSync, readFileSync } from "node:fs";
import { run as begin, install } from "./prepare.mjs";

const started = Date.now();
const run = (what, command, args) => begin(`\n== ${what}`, command, args);

install();
const has = (name) => spawnSync("which", [name]).status === 0;

if (!has("chromium") && !has("chromium-browser") && !has("google-chrome")) {
  if (has("apt-get") && process.getuid?.() === 0) {
    run("Installing Chromium for the browser tests", "bash", [
      "-c",
      "apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium",
    ]);
  } else {
    console.error(
      "Chromium is missing, and the browser tests need it. Install it, for example with: sudo apt-get install chromium",
    );
    process.exit(1);
  }
}
run("Lint and format", "npx", ["biome", "check", "--error-on-warnings", "."]);
run("Types", "npx", ["react-router", "typegen"]);
run("Types", "npx", ["tsc", "-p", "."]);
run("Layers", "npm", ["run", "--silent", "layers"]);
run("Build", "npx", ["react-router", "build"]);
mkdirSync("tests/.out", { recursive: true });
const report = "tests/.out/report.json";
run("Tests", "npx", ["vitest", "run", "--reporter=default", "--reporter=json", `--outputFile.json=${report}`]);
const { numPassedTests, numFailedTests } = JSON.parse(readFileSync(report, "utf8"));
console.log(`\nAll of it took ${Math.round((Date.now() - started) / 1000)} s.`);
console.log(`${numPassedTests} passed, ${numFailedTests} failed`);
