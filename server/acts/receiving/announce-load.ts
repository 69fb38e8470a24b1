import { type Day, parseDay } from "../../../core/calendar/day";
import type { OrderId, OrderLineId, PersonId } from "../../../core/ids";
import { clip } from "../../../core/numbers/decimal";
import { parseQuantity } from "../../../core/numbers/quantity";
import { unitCode } from "../../../core/numbers/units";
import { refuses } from "../../../core/orders/status";
import { type Despatched, type DespatchedLine, readDespatchAdvice } from "../../../exchange/ubl/despatch-advice";
import { recordAudit } from "../../db/audit";
import { type Db, madeId, sql } from "../../db/open";
import { orderByNumber, readOrderHead } from "../../queries/orders/order";
import { type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";

/** A load that is on its way: of one order. */
export interface AnnouncedLoad {
  order: OrderId;
  number: string;
  announced: number;
}

interface Brought {
  now: string;
  day: Day;
  person: PersonId | null;
}

/**
 * Takes in a UBL 2.1 DespatchAdvice: what is on its way of one order or several, with lots, weights and pallets. All of it is
 * kept, or nothing. `only`: it must be of this order alone.
 */
export function announceByFile(
  desk: Desk,
  bytes: Uint8Array,
  only: OrderId | null = null,
): Done<{ loads: AnnouncedLoad[] }> {
  const read = readDespatchAdvice(bytes);
  if (!read.ok) return refuse("file", read.says);
  return once(desk, "announce loads", (tx) => {
    const kept = keepAdvice(tx.db, read.advice, { now: desk.now, day: desk.day, person: desk.person.id }, only);
    if (kept.ok) tx.record("load.announced", "despatch advice", { id: read.advice.id, ...kept.value });
    return kept;
  });
}

/** The same for a file that lay in the inbox. */
export function announceFromInbox(
  db: Db,
  bytes: Uint8Array,
  { now, day }: { now: string; day: Day },
): Done<{ loads: AnnouncedLoad[] }> {
  const read = readDespatchAdvice(bytes);
  if (!read.ok) return refuse("file", read.says);
  let answer: Done<{ loads: AnnouncedLoad[] }> = done({ loads: [] });
  const run = db.transaction(() => {
    answer = keepAdvice(db, read.advice, { now, day, person: null }, null);
    if (!answer.ok) throw new NothingKept();
    recordAudit(db, now, null, "load.announced", "despatch advice", { id: read.advice.id, ...answer.value });
  });
  try {
    run.immediate();
  } catch (e) {
    if (!(e instanceof NothingKept)) throw e;
  }
  return answer;
}

class NothingKept extends Error {}

/** A line as it is kept. */
interface KeptLine {
  line: OrderLineId;
  quantity: number;
  lot: string;
  expires: Day | null;
  weight: number | null;
  pallet: string;
}

function keepAdvice(db: Db, advice: Despatched, by: Brought, only: OrderId | null): Done<{ loads: AnnouncedLoad[] }> {
  const issued = advice.issued === null ? null : parseDay(advice.issued);
  if (issued === null) return refuse("file", "IssueDate is missing, or no such day.");
  const arrives = advice.arrives === null ? null : parseDay(advice.arrives);
  if (advice.arrives !== null && arrives === null) return refuse("file", `“${clip(advice.arrives)}” is no such day.`);
  const numbers = [...new Set(advice.lines.map((l) => l.order ?? advice.order ?? ""))];
  if (numbers.includes("")) return refuse("file", "It does not say of which order: OrderReference/ID is missing.");
  const problems: Problem[] = [];
  const loads: AnnouncedLoad[] = [];
  for (const number of numbers) {
    const of = advice.lines.filter((l) => (l.order ?? advice.order) === number);
    const kept = keepLoad(db, advice, number, of, { issued, arrives }, by, only);
    if (kept.ok) loads.push(kept.value);
    else problems.push(...kept.problems);
  }
  return problems.length ? refuseAll(problems) : done({ loads });
}

function keepLoad(
  db: Db,
  advice: Despatched,
  number: string,
  lines: readonly DespatchedLine[],
  days: { issued: Day; arrives: Day | null },
  by: Brought,
  only: OrderId | null,
): Done<AnnouncedLoad> {
  const order = orderByNumber(db, number);
  const head = order === null ? null : readOrderHead(db, order);
  if (order === null || !head) return refuse("file", `There is no order ${clip(number)} of ours.`);
  if (only !== null && order !== only) return refuse("file", `It is of order ${clip(number)}, and not of this one.`);
  const { code } = sql<{ code: string }>(
    db,
    "SELECT s.code FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ?",
  ).get(order)!;
  if (advice.account && advice.account.toLowerCase() !== code.toLowerCase())
    return refuse("file", `It comes from ${clip(advice.account)}, but order ${clip(number)} is with ${code}.`);
  const no = refuses(head, "receive");
  if (no) return refuse("file", no);
  if (sql(db, "SELECT 1 FROM announced WHERE purchase_order = ? AND number = ?").get(order, advice.id))
    return refuse("file", `Despatch advice ${clip(advice.id)} for order ${clip(number)} was taken in already.`);
  const problems: Problem[] = [];
  const kept = lines.flatMap((l) => lineParts(db, order, l, problems));
  if (problems.length) return refuseAll(problems);
  const packages = advice.packages !== null && /^\d{1,6}$/.test(advice.packages) ? Number(advice.packages) : null;
  const announced = Number(
    madeId(
      sql(
        db,
        "INSERT INTO announced (purchase_order, number, issued, arrives, packages, weight, note, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
      ).run(
        order,
        advice.id.slice(0, 60),
        days.issued,
        days.arrives,
        packages,
        kilograms(advice.weight, advice.weightUnit),
        advice.note.slice(0, 500),
        by.person,
        by.now,
      ),
    ),
  );
  const add = sql(
    db,
    "INSERT INTO announced_line (announced, order_line, quantity, lot, expires, weight, pallet) VALUES (?, ?, ?, ?, ?, ?, ?)",
  );
  for (const k of kept) add.run(announced, k.line, k.quantity, k.lot, k.expires, k.weight, k.pallet);
  return done({ order, number, announced });
}

/** Kilograms as they are written; null where it is another unit, or no weight. */
function kilograms(text: string | null, unit: string | null): number | null {
  if (text === null || (unit !== null && unit !== "KGM")) return null;
  const parsed = parseQuantity(text);
  return parsed.ok ? parsed.value : null;
}

/** A line of the advice as it is kept: one part for each lot or serial number. What is wrong with it is said. */
function lineParts(db: Db, order: OrderId, l: DespatchedLine, problems: Problem[]): KeptLine[] {
  const no = (says: string) => {
    problems.push({ field: "file", says: `Line ${clip(l.line)}: ${says}` });
    return [];
  };
  const line = sql<{ id: OrderLineId; unit: string; kind: string }>(
    db,
    "SELECT id, unit, kind FROM order_line WHERE purchase_order = ? AND position = ?",
  ).get(order, /^\d{1,6}$/.test(l.line) ? Number(l.line) : 0);
  if (!line || line.kind === "charge") return no("it is not on this order.");
  const parsed = parseQuantity(l.quantity);
  if (!parsed.ok) return no(`“${clip(l.quantity)}” is no quantity. ${parsed.says}`);
  if (l.unit !== null && l.unit !== unitCode(line.unit))
    return no(`it is in ${clip(l.unit)}, and we ordered in ${unitCode(line.unit)}.`);
  const of = { line: line.id, weight: kilograms(l.weight, l.weightUnit), pallet: (l.pallet ?? "").slice(0, 40) };
  const serials = l.lots.filter((i) => i.serial !== null);
  const day = (text: string | null): Day | null => {
    const read = text === null ? null : parseDay(text);
    if (text !== null && read === null) no(`“${clip(text)}” is no such day.`);
    return read;
  };
  if (serials.length > 0) {
    if (serials.length * 10_000 !== parsed.value)
      return no(`it names ${serials.length} serial numbers for ${clip(l.quantity)}.`);
    return serials.map((i) => ({ ...of, quantity: 10_000, lot: i.serial!.slice(0, 40), expires: day(i.expires) }));
  }
  if (l.lots.length > 1) return no("it names several lots: send a line for each.");
  const [lot] = l.lots;
  return [{ ...of, quantity: parsed.value, lot: (lot?.lot ?? "").slice(0, 40), expires: day(lot?.expires ?? null) }];
}
