import { z } from "zod";
import type { DemandId, ItemId, JobId, StoreId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { DOCK, inBin } from "../../../core/stock/bins";
import type { Picked } from "../../../core/stock/pick";
import { stockPostings } from "../../../core/stock/posting";
import { type Db, sql } from "../../db/open";
import { heldByJobs } from "../../queries/receiving/undo";
import { ownBin } from "../../queries/stock/bins";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { Id, orNone, QuantityField, text } from "../fields";
import { BinField, binToPut, ownStore } from "./bins";
import type { MovedGoods } from "./move-goods";
import { pickAt } from "./pick";
import { openEntry, post } from "./post";
import { takeFrom, takeIn, valueOfFound } from "./stock";
import { lyingIn, openStockPaper, stockedItem } from "./stock-paper";

/** Where goods are taken: from one bin and lot, or, where no bin is named, first expired, first out. */
const From = z.object({
  item: Id,
  quantity: QuantityField,
  bin: orNone(text(20)).default(null),
  lot: orNone(Id).default(null),
});

export const IssueGoods = z
  .object({
    store: Id,
    job: orNone(Id).default(null),
    /** Who gets it and what for; a job says that itself. */
    reason: text(300).default(""),
    /** The bin of each row is named, the dock too. */
    named: z.boolean().default(false),
    rows: z.array(From).min(1, "Choose what is issued.").max(500, "At most 500 at once."),
  })
  .refine((v) => v.job !== null || v.reason.length >= 3, {
    path: ["reason"],
    message: "Say for which job, or who gets it and what for.",
  });

/**
 * Issues goods to a job, or to whoever is named: they leave the stock at what they are worth, and the job wants that much
 * less. What other jobs hold stays.
 */
export function issueGoods(desk: Desk, raw: unknown): Done<MovedGoods> {
  const input = checked(IssueGoods, raw);
  if (!input.ok) return input;
  const { store, job, reason, rows, named } = input.value;
  return once(desk, "move stock", (tx) => {
    const own = ownStore(desk, tx.db, store);
    if (!own.ok) return own;
    const name = job === null ? "" : openJob(tx.db, job);
    if (name === null) return refuse("job", "There is no such job, or it is closed.");
    const picked = pickedRows(tx.db, desk, store, job, rows, named);
    if (!picked.ok) return picked;
    const { paper, number } = openStockPaper(tx.db, desk, { kind: "issue", store, job, reason });
    const entry = openEntry(tx.db, desk, "issue");
    let value = 0;
    for (const p of picked.value) {
      const of = { item: p.item, store, quantity: p.quantity, kind: "issue" as const, entry, paper };
      value += takeFrom(tx.db, desk, job === null ? of : { ...of, job }, p.from);
      if (job !== null) wantLess(tx.db, job, p.item, store, p.quantity);
    }
    post(tx.db, entry, stockPostings(value, "used"));
    tx.record("goods.issued", job === null ? `store ${store}` : `job ${job}`, {
      number,
      store,
      job,
      reason,
      rows: picked.value,
    });
    return done({ paper, number });
  });
}

const openJob = (db: Db, job: JobId): string | null =>
  sql<{ name: string }>(db, "SELECT kind || ' ' || code AS name FROM job WHERE id = ? AND closed IS NULL").get(job)
    ?.name ?? null;

interface PickedRow {
  item: ItemId;
  quantity: number;
  from: Picked[];
}

/** From which bins and lots each row is taken; or what is wrong with it. */
function pickedRows(
  db: Db,
  desk: Desk,
  store: StoreId,
  job: JobId | null,
  rows: readonly z.output<typeof From>[],
  named: boolean,
): Done<PickedRow[]> {
  const problems: Problem[] = [];
  const picked: PickedRow[] = [];
  const seen = new Set<string>();
  for (const [i, r] of rows.entries()) {
    const at = (says: string) => problems.push({ field: `rows.${i}.quantity`, says });
    const item = stockedItem(db, r.item);
    if (!item) {
      at("There is no such item in stock.");
      continue;
    }
    if (seen.has(String(r.item))) {
      at(`${item.name} stands here twice.`);
      continue;
    }
    seen.add(String(r.item));
    const held = heldByJobs(db, r.item, store, null).filter((h) => h.job !== job);
    const holds = held.reduce((a, h) => a + h.quantity, 0);
    const onHand = sql<{ n: number }>(db, "SELECT on_hand AS n FROM item_store WHERE item = ? AND store = ?").get(
      r.item,
      store,
    );
    const free = Math.max(0, (onHand?.n ?? 0) - holds);
    if (r.quantity > free && holds > 0) {
      const who = [...new Set(held.map((h) => h.name))].join(", ");
      at(
        `${who} ${held.length === 1 ? "holds" : "hold"} ${quantityText(holds)} ${item.unit}: ${quantityText(free)} can be issued.`,
      );
      continue;
    }
    const bin = r.bin ?? (named ? DOCK : null);
    const from =
      bin === null
        ? pickAt(db, { item: r.item, store, quantity: r.quantity }, desk.day)
        : pickNamed(db, { ...r, bin, store });
    if (!from) {
      at(
        bin === null
          ? `There is not that much ${item.name} that may be used.`
          : `Only ${quantityText(lyingIn(db, { item: r.item, store, bin, lot: r.lot }))} ${item.unit} of ${item.name} lie ${inBin(bin)}.`,
      );
      continue;
    }
    const wrong = from.map((f) => lotTrouble(db, f.lot, desk.day)).find(Boolean);
    if (wrong) {
      at(wrong);
      continue;
    }
    picked.push({ item: r.item, quantity: r.quantity, from });
  }
  return problems.length ? refuseAll(problems) : done(picked);
}

/** All of it from one bin and lot; null where it does not hold that much. */
const pickNamed = (
  db: Db,
  of: { item: ItemId; store: StoreId; bin: string; lot: number | null; quantity: number },
): Picked[] | null => (lyingIn(db, of) < of.quantity ? null : [{ bin: of.bin, lot: of.lot, quantity: of.quantity }]);

/** Why a lot is not used. */
function lotTrouble(db: Db, lot: number | null, day: string): string | null {
  if (lot === null) return null;
  const l = sql<{ code: string; expires: string | null; held: string }>(
    db,
    "SELECT code, expires, held FROM lot WHERE id = ?",
  ).get(lot);
  if (!l) return "There is no such lot.";
  if (l.held) return `Lot ${l.code} is held: ${l.held}`;
  return l.expires !== null && l.expires < day ? `Lot ${l.code} expired: write it off.` : null;
}

/** A job wants so much less of an item: what is due first, of this store before others. */
function wantLess(db: Db, job: JobId, item: ItemId, store: StoreId, quantity: number): void {
  let left = quantity;
  for (const d of demandsOf(db, job, item, store)) {
    const part = Math.min(left, d.quantity - d.issued);
    if (part > 0) sql(db, "UPDATE job_demand SET issued = issued + ? WHERE id = ?").run(part, d.id);
    left -= Math.max(0, part);
  }
}

const demandsOf = (db: Db, job: JobId, item: ItemId, store: StoreId) =>
  sql<{ id: DemandId; quantity: number; issued: number }>(
    db,
    "SELECT id, quantity, issued FROM job_demand WHERE job = ? AND item = ? ORDER BY store <> ?, due, id",
  ).all(job, item, store);

export const GiveGoodsBack = z.object({
  store: Id,
  job: Id,
  item: Id,
  quantity: QuantityField,
  lot: orNone(Id).default(null),
  /** Where it is put; empty: its own bin. */
  bin: BinField,
  reason: text(300, 3, "Say why it comes back."),
});

/** What was issued of an item to a job and not given back, by store and lot. Stock units. */
export const issuedTo = (db: Db, of: { job: JobId; item: ItemId; store: StoreId; lot: number | null }): number =>
  sql<{ n: number | null }>(
    db,
    "SELECT -sum(quantity) AS n FROM movement WHERE job = ? AND item = ? AND store = ? AND lot IS ? AND kind = 'issue'",
  ).get(of.job, of.item, of.store, of.lot)?.n ?? 0;

/** A job gives goods back that it did not use: at most what was issued to it, and it wants that much again. */
export function takeBackFromJob(desk: Desk, raw: unknown): Done<MovedGoods> {
  const input = checked(GiveGoodsBack, raw);
  if (!input.ok) return input;
  const { store, job, item, quantity, lot, reason } = input.value;
  return once(desk, "move stock", (tx) => {
    const own = ownStore(desk, tx.db, store);
    if (!own.ok) return own;
    const of = stockedItem(tx.db, item);
    if (!of) return refuse("item", "There is no such item in stock.");
    const issued = issuedTo(tx.db, { job, item, store, lot });
    if (quantity > issued)
      return refuse(
        "quantity",
        issued > 0
          ? `Only ${quantityText(issued)} ${of.unit} were issued to it.`
          : `None of it was issued to this job.`,
      );
    const bin =
      input.value.bin === "" ? done(ownBin(tx.db, item, store)) : binToPut(tx.db, store, input.value.bin, "bin");
    if (!bin.ok) return bin;
    const { paper, number } = openStockPaper(tx.db, desk, { kind: "from job", store, job, reason });
    const entry = openEntry(tx.db, desk, "issue");
    const value = valueOfFound(tx.db, item, store, quantity);
    takeIn(tx.db, desk, { item, store, bin: bin.value, lot, quantity, kind: "issue", job, entry, paper }, value);
    post(tx.db, entry, stockPostings(value, "used"));
    wantAgain(tx.db, job, item, store, quantity);
    tx.record("goods.given-back", `job ${job}`, { number, store, item, lot, bin: bin.value, quantity, reason });
    return done({ paper, number });
  });
}

/** A job that is open wants so much more of an item: what is due last, of this store before others. */
function wantAgain(db: Db, job: JobId, item: ItemId, store: StoreId, quantity: number): void {
  let left = quantity;
  const demands = demandsOf(db, job, item, store);
  for (const d of [...demands].reverse()) {
    const part = Math.min(left, d.issued);
    if (part > 0) sql(db, "UPDATE job_demand SET issued = issued - ? WHERE id = ?").run(part, d.id);
    left -= part;
  }
}
