import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Day } from "../core/calendar/day";
import { openDatabase } from "../server/db/open";
import { fill, MANY_ORDERS } from "./company";
import { served } from "./serve";

const ROWS = 20_000;
/** How long the house may be deaf, in milliseconds. */
const AIM = 100;

/** The longest that `/health` waited for its answer during each long work, against the longest while nothing is done. */
export async function stallsBench(today: Day): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-stalls-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    fill(db, today, MANY_ORDERS);
    db.exec("INSERT OR IGNORE INTO person_role (person, role) VALUES (1, 'administrator'), (1, 'buyer')");
    db.exec("ANALYZE");
    db.close();
    await served(folder, async ({ url, cookie }) => {
      const headers = { cookie, origin: url };
      const get = async (path: string) => void (await (await fetch(url + path, { headers })).arrayBuffer());
      const load = async (kind: string, text: string) => {
        const body = new FormData();
        body.set("kind", kind);
        body.set("file", new File([text], `${kind}.csv`));
        const answer = await fetch(`${url}/exchange/import`, { method: "POST", headers, body });
        await answer.arrayBuffer();
      };
      const rows = (row: (i: number) => string) => Array.from({ length: ROWS }, (_, i) => row(i)).join("\n");
      const works: [string, () => Promise<void>][] = [
        ["nothing", () => new Promise((done) => setTimeout(done, 1_000))],
        ["20,000 items are loaded", () => load("items", `code,name,unit\n${rows((i) => `ZZ${i},Thing ${i},each`)}\n`)],
        ["20,000 faulty items are refused", () => load("items", `code,name,unit\n${rows((i) => `ZZ ${i},,fathom`)}\n`)],
        ["9 million commas are refused", () => load("items", `code,name,unit\nA${",".repeat(9_000_000)}\n`)],
        ["100,000 orders leave as a workbook", () => get("/orders.xlsx")],
        ["100,000 orders leave as CSV", () => get("/orders.csv")],
        ["all movements of use leave as CSV", () => get("/files/usage/save.csv")],
        ["the page of all items is opened", () => get("/items")],
        ["the needs leave as CSV", () => get("/needs.csv")],
      ];
      for (const [what, work] of works) {
        const from = performance.now();
        let over = false;
        const done = work().finally(() => {
          over = true;
        });
        let longest = 0;
        while (!over) {
          const asked = performance.now();
          await (await fetch(`${url}/health`)).text();
          longest = Math.max(longest, performance.now() - asked);
          await new Promise((next) => setTimeout(next, 5));
        }
        await done;
        const took = performance.now() - from;
        console.log(
          `${`/health while ${what}`.padEnd(52)} ${longest.toFixed(0).padStart(6)} ms at most, in ${(took / 1000).toFixed(1).padStart(5)} s   aim ${AIM} ${longest <= AIM ? "reached" : "not reached"}`,
        );
      }
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
