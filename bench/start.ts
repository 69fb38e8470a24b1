import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { recordAudit } from "../server/db/audit";
import { openDatabase } from "../server/db/open";
import { print } from "./measure";
import { served } from "./serve";

const ROWS = 1_000_000;

/** How long the house takes to listen on a file with a million rows in its trail, against one that has none. */
export async function startBench(): Promise<void> {
  const started = async (rows: number): Promise<number> => {
    const folder = mkdtempSync(join(tmpdir(), "wharf-start-"));
    try {
      const db = openDatabase(join(folder, "wharf-tally.db"));
      db.exec("INSERT INTO company (id, name, currency) VALUES (1, 'Kelpholm Ferries', 'EUR')");
      db.exec("INSERT INTO person (id, login, name) VALUES (1, 'osk', 'Osk')");
      db.transaction(() => {
        for (let i = 0; i < rows; i++)
          recordAudit(db, "2026-11-24T09:00:00.000Z", 1, "order.changed", `order ${i % 50_000}`, {
            lines: i % 40,
            note: "as before",
          });
      })();
      db.close();
      const from = performance.now();
      return await served(folder, async () => performance.now() - from);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  };
  const floor = await started(0);
  print("Starting on a million rows of the trail", await started(ROWS), floor, 2, "empty");
}
