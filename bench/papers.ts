import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Day } from "../core/calendar/day";
import type { OrderId } from "../core/ids";
import type { OrderDocument } from "../exchange/pdf/order-document";
import { orderPdf } from "../exchange/pdf/order-pdf";
import { openDatabase, sql } from "../server/db/open";
import { documentNow } from "../server/queries/orders/document";
import { fill, MANY_ORDERS } from "./company";
import { print } from "./measure";
import { served } from "./serve";

const PAPERS = 200;

/** One paper of 1,500 lines against ten of 150: worse than as long for as many lines means that something grows faster. */
async function longPaper(document: OrderDocument): Promise<void> {
  const of = (lines: number): OrderDocument => ({
    ...document,
    lines: Array.from({ length: lines }, (_, i) => ({ ...document.lines[0]!, position: i + 1 })),
  });
  const time = async (papers: OrderDocument[]) => {
    const from = performance.now();
    for (const d of papers) await orderPdf(d);
    return performance.now() - from;
  };
  const ten = await time(Array.from({ length: 10 }, () => of(150)));
  print("A paper of 1,500 lines", await time([of(1_500)]), ten, 1.2, "ten of 150 lines");
}

/** Two hundred orders printed by the served application, against drawing the same papers alone; and how the pages answer meanwhile. */
export async function papersBench(today: Day): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    fill(db, today, { ...MANY_ORDERS, lines: 3_000 });
    const orders = sql<{ id: OrderId }>(
      db,
      "SELECT id FROM purchase_order WHERE kind <> 'standing' ORDER BY id DESC LIMIT ?",
    )
      .all(PAPERS)
      .map((o) => o.id);
    await orderPdf(documentNow(db, orders[0]!, today)!.document);
    const from = performance.now();
    for (const id of orders) await orderPdf(documentNow(db, id, today)!.document);
    const alone = performance.now() - from;
    await longPaper(documentNow(db, orders[0]!, today)!.document);
    db.pragma("wal_checkpoint(TRUNCATE)");
    await served(folder, async ({ url, cookie }) => {
      const get = (path: string) => fetch(url + path, { headers: { cookie } });
      const page = async () => {
        const asked = performance.now();
        await (await get("/with-suppliers")).text();
        return performance.now() - asked;
      };
      for (let i = 0; i < 5; i++) await page();
      const quiet = await page();
      const begun = performance.now();
      const answer = await fetch(`${url}/orders`, {
        method: "POST",
        redirect: "manual",
        headers: { cookie, origin: url },
        body: new URLSearchParams({ do: "batch", what: "print", orders: orders.join(","), key: "bench-papers" }),
      });
      const batch = answer.headers.get("location");
      if (!batch) throw new Error(`the batch was not begun: ${answer.status}`);
      const answered: number[] = [];
      for (;;) {
        const { ended } = (await (await get(`${batch}/tick`)).json()) as { ended: string | null };
        if (ended) break;
        answered.push(await page());
        await new Promise((done) => setTimeout(done, 100));
      }
      print(`${PAPERS} papers printed in workers`, performance.now() - begun, alone, 1.5, "drawing alone");
      answered.sort((a, b) => a - b);
      console.log(
        `Meanwhile a page answered ${answered.length} times: median ${answered[answered.length >> 1]!.toFixed(0)} ms, the longest ${answered.at(-1)!.toFixed(0)} ms; alone ${quiet.toFixed(0)} ms.`,
      );
    });
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
