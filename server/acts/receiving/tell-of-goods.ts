import type { ItemId, JobId, OrderId, OrderLineId, PersonId, ReceiptId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { DOCK, inBin } from "../../../core/stock/bins";
import { unitWords } from "../../../core/text";
import { type Db, sql } from "../../db/open";
import type { OrderHead, OrderLine } from "../../queries/orders/order";
import { binFor } from "../../queries/stock/bins";
import type { Desk } from "../desk";
import { servedBy, tell, tellFollowers } from "../notices";
import type { PutAside } from "./receive";

/** Goods of a receipt that lie in stock: what, how much, and where. */
interface Came {
  line: OrderLineId;
  item: ItemId;
  name: string;
  unit: string;
  store: number;
  storeName: string;
  lot: number | null;
  bin: string;
  quantity: number;
}

const cameWith = (db: Db, receipt: ReceiptId): Came[] =>
  sql<Came>(
    db,
    `SELECT x.order_line AS line, m.item, i.name, u.name AS unit, m.store, s.name AS storeName, m.lot, m.bin, m.quantity
     FROM receipt_line x JOIN movement m ON m.receipt_line = x.id AND m.kind = 'receipt' JOIN item i ON i.id = m.item JOIN unit u ON u.code = i.unit JOIN store s ON s.id = m.store
     WHERE x.receipt = ? ORDER BY x.id`,
  ).all(receipt);

/** Where it lies, and where it goes from there: "on the dock of Tarn Quay, goes into B22", "in B22 of Tarn Quay". */
function whereIt(db: Db, came: readonly Came[]): string {
  const places = came.map((c) => {
    const { bin } = c.bin === DOCK ? binFor(db, c) : c;
    const on = `${inBin(c.bin)} of ${c.storeName}`;
    return c.bin === DOCK && bin !== DOCK ? `${on}, goes into ${bin}` : on;
  });
  return [...new Set(places)].join("; ");
}

/** Whoever wrote the order is told what waits for them. */
export function tellWriter(
  db: Db,
  desk: Desk,
  head: OrderHead,
  lines: readonly OrderLine[],
  aside: readonly PutAside[],
): void {
  const waits = aside.filter((a) => !a.turnedAway);
  if (waits.length === 0) return;
  const what = waits.map((a) => {
    const line = lines.find((l) => l.id === a.line)!;
    return `${quantityText(a.quantity)} ${line.unit} of ${line.words}, ${a.why}`;
  });
  tell(db, desk.now, head.writer, `Set aside of ${head.name}: ${what.join("; ")}`, head.supplierName, "/set-aside");
}

/** Askers whose lines came in with this load are told, and where it lies. */
export function tellOfGoods(
  db: Db,
  desk: Desk,
  order: OrderId,
  head: OrderHead,
  receipt: ReceiptId,
  taken: ReadonlySet<number>,
  after: readonly OrderLine[],
): void {
  const came = after.filter((l) => taken.has(l.id));
  const lies = cameWith(db, receipt);
  for (const a of servedBy(db, order)) {
    const theirs = came.filter((l) => l.serves.some((s) => s.requisition === a.requisition));
    if (theirs.length === 0) continue;
    const whole = theirs.every((l) => l.received + l.closedShort >= l.quantity);
    const what = theirs.map((l) => l.words).join(", ");
    const where = whereIt(
      db,
      lies.filter((c) => theirs.some((l) => l.id === c.line)),
    );
    tellFollowers(
      db,
      desk.now,
      a.requisition,
      whole ? `Came in: ${what}` : `Came in in part: ${what}`,
      `order ${head.number}, ${where || `at ${theirs[0]!.storeName}`}`,
    );
  }
}

/** Jobs that wait for what came, whether it was ordered for them or not: whoever looks after each is told, and where it lies. */
export function tellJobs(db: Db, desk: Desk, head: OrderHead, receipt: ReceiptId): void {
  const lies = cameWith(db, receipt);
  const waiting = sql<{ job: JobId; name: string; told: PersonId; item: ItemId }>(
    db,
    `SELECT DISTINCT j.id AS job, j.kind || ' ' || j.code AS name, j.told, d.item FROM job_demand d JOIN job j ON j.id = d.job
     WHERE j.told IS NOT NULL AND j.closed IS NULL AND d.issued < d.quantity AND d.item IN (SELECT value FROM json_each(?)) ORDER BY j.id`,
  ).all(JSON.stringify([...new Set(lies.map((c) => c.item))]));
  for (const job of new Set(waiting.map((w) => w.job))) {
    const of = waiting.filter((w) => w.job === job);
    const came = lies.filter((c) => of.some((w) => w.item === c.item));
    const what = [...new Set(came.map((c) => c.item))].map((item) => {
      const all = came.filter((c) => c.item === item);
      const sum = all.reduce((a, c) => a + c.quantity, 0);
      return `${quantityText(sum)} ${unitWords(sum, all[0]!.unit)} of ${all[0]!.name}`;
    });
    const { name, told } = of[0]!;
    tell(
      db,
      desk.now,
      told,
      `Came in, and ${name} wants it: ${what.join(", ")}`,
      `order ${head.number}, ${whereIt(db, came)}`,
      `/jobs/${job}`,
    );
  }
}
