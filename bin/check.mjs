// Everything that must pass, from a fresh clone: npm test
import { spawn, spawnSync } from "node:child_process";
import { mkdirSync, readFileSync } from "node:fs";
import { run as begin, COMPILE, compiled, install } from "./prepare.mjs";

const started = Date.now();
/** Where the time went: what ran, and for how many seconds. */
const spent = [];
const run = (what, command, args) => {
  const from = Date.now();
  begin(`\n== ${what}`, command, args);
  spent.push([what, (Date.now() - from) / 1000]);
};

const installing = Date.now();
const left = install({ compile: false });
spent.push(["Installing", (Date.now() - installing) / 1000]);
// The database is compiled on one core for a minute and a half: what does not need it goes on meanwhile.
const compiling = left ? beside("Compiling what was installed", ...COMPILE) : null;
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
run("Types of pages", "npx", ["react-router", "typegen"]);
const types = beside("Types", "npx", ["tsc", "-p", "."]);
run("Layers", "npm", ["run", "--silent", "layers"]);
run("Build", "npx", ["react-router", "build"]);
mkdirSync("tests/.out", { recursive: true });
const tests = (project) => [
  "vitest",
  "run",
  `--project=${project}`,
  "--reporter=default",
  "--reporter=json",
  `--outputFile.json=tests/.out/${project}.json`,
];
await types;
run("Tests without a database", "npx", tests("apart"));
await compiling;
if (process.exitCode) process.exit();
compiled();
run("Unit tests", "npx", [...tests("unit"), "--coverage"]);
run("Tests in a browser", "npx", tests("browser"));
run("Tests without a network", "npx", tests("offline"));

let passed = 0;
let failed = 0;
for (const project of ["apart", "unit", "browser", "offline"]) {
  const report = JSON.parse(readFileSync(`tests/.out/${project}.json`, "utf8"));
  passed += report.numPassedTests;
  failed += report.numFailedTests;
  const files = report.testResults.map((f) => [
    f.name.replace(`${process.cwd()}/`, ""),
    (f.endTime - f.startTime) / 1000,
  ]);
  for (const [name, seconds] of files.sort((a, b) => b[1] - a[1]).slice(0, 6)) spent.push([`  ${name}`, seconds]);
}
console.log("\n== Where the time went, in seconds");
for (const [what, seconds] of spent) console.log(`${seconds.toFixed(0).padStart(6)}  ${what}`);
// Nobody counted where a test failed.
if (!failed) {
  console.log("\n== How much of it the unit tests reach, in lines and branches");
  for (const [part, { lines, branches }] of Object.entries(reached(["core", "server/acts"])))
    console.log(`${percent(lines).padStart(6)}${percent(branches).padStart(8)}  ${part}`);
}
console.log(`\nAll of it took ${Math.round((Date.now() - started) / 1000)} s.`);
console.log(`${passed} passed, ${failed} failed`);

function percent({ total, covered }) {
  return `${((100 * covered) / total).toFixed(1)} %`;
}

/** Lines and branches of each part, and those that a test ran. */
function reached(parts) {
  const summary = JSON.parse(readFileSync("tests/.out/coverage/coverage-summary.json", "utf8"));
  const sums = Object.fromEntries(
    parts.map((part) => [part, { lines: { total: 0, covered: 0 }, branches: { total: 0, covered: 0 } }]),
  );
  for (const [file, of] of Object.entries(summary))
    for (const part of parts)
      if (file.startsWith(`${process.cwd()}/${part}/`))
        for (const kind of ["lines", "branches"]) {
          sums[part][kind].total += of[kind].total;
          sums[part][kind].covered += of[kind].covered;
        }
  return sums;
}

/** Runs a command beside others, and shows what it said once it has ended; a fault of it is the whole's. */
function beside(what, command, args) {
  return new Promise((done) => {
    const from = Date.now();
    const child = spawn(command, args, { stdio: ["ignore", "pipe", "pipe"], shell: process.platform === "win32" });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream.on("data", (part) => said.push(part));
    child.on("close", (status) => {
      spent.push([what, (Date.now() - from) / 1000]);
      console.log(`\n== ${what}`);
      process.stdout.write(Buffer.concat(said));
      if (status !== 0) {
        console.error(`This failed: ${command} ${args.join(" ")}`);
        process.exitCode = status ?? 1;
      }
      done();
    });
  });
}
