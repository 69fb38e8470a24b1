// Serves a real company, without demo data: installs and builds first where that is needed.
import { prepare } from "./prepare.mjs";

prepare();
await import("./serve.mjs");
