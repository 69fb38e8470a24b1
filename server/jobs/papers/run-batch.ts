import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { zipSync } from "fflate";
import type { Desk, Done, Person } from "../../acts/desk";
import type { Draw } from "../../acts/orders/letters";
import { mailOrder } from "../../acts/orders/mail-order";
import { placeOrder } from "../../acts/orders/place-order";
import { readPerson } from "../../auth/sessions";
import { isBusy, patiently } from "../../db/busy";
import { type Db, sql } from "../../db/open";
import { documentNow } from "../../queries/orders/document";
import { readOrderHead } from "../../queries/orders/order";
import { type Batch, type BatchOrder, readBatch, readBatchOrders } from "../../queries/papers/batches";
import { drawPaper } from "./draw";

/** What a batch needs of the house around it. */
export interface BatchHouse {
  db: Db;
  /** Where the papers of a printed batch are put. */
  folder: string;
  now: () => Date;
  today: () => Desk["day"];
  hour: () => number;
  draw: Draw;
  /** Called after an act that put messages into the outbox. */
  post: () => void;
  onFault: (fault: unknown) => void;
}

/** Two papers are drawn at the same time, as there are two workers. */
const AT_ONCE = 2;
const working = new Map<number, Promise<void>>();

export const papersFile = (folder: string, batch: number) => join(folder, "papers", `batch-${batch}.zip`);

/**
 * Works through a batch order by order. Each is an act of its own under a key of its own, so that a batch which is taken
 * up again after the server stopped sends and places nothing twice. Calling it while it works waits for the same work.
 */
export function runBatch(house: BatchHouse, id: number): Promise<void> {
  const known = working.get(id);
  if (known) return known;
  const work = workThrough(house, id)
    .catch(house.onFault)
    .finally(() => working.delete(id));
  working.set(id, work);
  return work;
}

/** Resolves when no batch is being worked through. */
export async function batchesDone(): Promise<void> {
  while (working.size > 0) await Promise.all(working.values());
}

async function workThrough(house: BatchHouse, id: number): Promise<void> {
  const { db } = house;
  const batch = readBatch(db, id);
  if (!batch || batch.ended) return;
  const papers = new Map<string, Uint8Array>();
  // Papers are kept in memory until all are drawn, so a printed batch that was interrupted begins anew.
  if (batch.what === "print")
    await patiently(() => sql(db, "UPDATE batch_order SET state = 'waiting', says = '' WHERE batch = ?").run(id));
  const waiting = readBatchOrders(db, id).filter((o) => o.state === "waiting");
  let next = 0;
  const worker = async () => {
    for (let o = waiting[next++]; o; o = waiting[next++]) {
      if (sql<{ stopped: string | null }>(db, "SELECT stopped FROM batch WHERE id = ?").get(id)?.stopped) return;
      const result = await patiently(() => workOn(house, batch, o, papers));
      await patiently(() =>
        sql(db, "UPDATE batch_order SET state = ?, says = ? WHERE batch = ? AND position = ?").run(
          result.state,
          result.says,
          id,
          o.position,
        ),
      );
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
  if (papers.size > 0) keepPapers(house.folder, id, papers);
  await patiently(() => sql(db, "UPDATE batch SET ended = ? WHERE id = ?").run(house.now().toISOString(), id));
}

async function workOn(
  house: BatchHouse,
  batch: Batch,
  o: BatchOrder,
  papers: Map<string, Uint8Array>,
): Promise<Pick<BatchOrder, "state" | "says">> {
  const { db } = house;
  try {
    if (batch.what === "print") {
      const found = documentNow(db, o.order, house.today());
      if (!found) return { state: "refused", says: "It is not there any more." };
      const pdf = await drawPaper(db, found.document, { prices: batch.prices, draw: house.draw });
      papers.set(`order-${found.name}.pdf`, pdf);
      return { state: "done", says: "" };
    }
    const person = readPerson(db, batch.person);
    const head = readOrderHead(db, o.order);
    if (!person || !head) return { state: "refused", says: "Whoever began this cannot go on with it." };
    const desk = deskFor(house, person, `batch-${batch.id}-${o.position}`);
    const options = { site: batch.site, draw: house.draw };
    const result: Done<{ recipients: string[] }> =
      batch.what === "place"
        ? await placeOrder(desk, { order: o.order, version: head.version }, options)
        : await mailOrder(desk, { order: o.order }, options);
    if (!result.ok) return { state: "refused", says: result.problems.map((p) => p.says).join(" ") };
    house.post();
    return { state: "done", says: `to ${result.value.recipients.join(", ")}` };
  } catch (fault) {
    if (isBusy(fault)) throw fault; // tried again
    house.onFault(fault);
    return { state: "refused", says: "A fault on our side; nothing of it was done." };
  }
}

const deskFor = (house: BatchHouse, person: Person, key: string): Desk => ({
  db: house.db,
  person,
  day: house.today(),
  hour: house.hour(),
  now: house.now().toISOString(),
  key,
});

/** The PDFs are packed already, so the archive only holds them together. */
function keepPapers(folder: string, batch: number, papers: ReadonlyMap<string, Uint8Array>): void {
  const file = papersFile(folder, batch);
  mkdirSync(join(folder, "papers"), { recursive: true });
  writeFileSync(`${file}.part`, zipSync(Object.fromEntries([...papers].sort()), { level: 0 }));
  renameSync(`${file}.part`, file);
}

const KEPT_DAYS = 30;

/** Takes away archives that have lain for thirty days: every paper in them can be drawn again. */
export function sweepPapers(folder: string, now: Date): number {
  const papers = join(folder, "papers");
  if (!existsSync(papers)) return 0;
  const old = readdirSync(papers).filter(
    (name) => now.getTime() - statSync(join(papers, name)).mtimeMs > KEPT_DAYS * 86_400_000,
  );
  for (const name of old) rmSync(join(papers, name), { force: true });
  return old.length;
}

export const hasPapers = (folder: string, batch: number) => existsSync(papersFile(folder, batch));
