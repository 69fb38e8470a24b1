// Everything on a fresh machine: installs what is missing, builds, makes the demo company on first start, and serves it.
import { prepare, run } from "./prepare.mjs";

prepare();
process.env.WHARF_DEMO = "1";
const folder = process.env.WHARF_DATA ?? "data/demo";
const fresh = process.argv.includes("--fresh") ? ["--fresh"] : [];
run("Looking after the demo company…", "npx", ["tsx", "demo/load.ts", `${folder}/wharf-tally.db`, ...fresh]);
await import("./serve.mjs");
