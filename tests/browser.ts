import { execFileSync } from "node:child_process";
import { type Browser, chromium } from "playwright-core";

const FLAGS = [
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

/** Debian's Chromium, or a sentence that says what is missing. */
export function chromiumPath(): string {
  for (const name of ["chromium", "chromium-browser", "google-chrome"]) {
    try {
      return execFileSync("which", [name], { encoding: "utf8" }).trim();
    } catch {
      // Look for the next one.
    }
  }
  throw new Error("Chromium is missing. Install it, for example with: apt-get install chromium");
}

export const launch = (more: readonly string[] = []): Promise<Browser> =>
  chromium.launch({ executablePath: chromiumPath(), args: [...FLAGS, ...more] });

let shared: Promise<Browser> | undefined;
/** One browser for all that a process tests: starting one takes seconds. It ends with the process. */
export const sharedBrowser = (): Promise<Browser> => (shared ??= launch());
