import { z } from "zod";
import type { ItemId, JobId, StoreId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { stockPostings } from "../../../core/stock/posting";
import { type Db, sql } from "../../db/open";
import { boundItems } from "../../queries/consigned/agreement";
import { ownBin } from "../../queries/stock/bins";
import { bringTheirs, leaveAtOnce } from "../consigned/bring";
import { ripenTheirs } from "../consigned/ripen";
import { giveUsesBack, usesOfJob } from "../consigned/take-back";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, orNone, QuantityField, text } from "../fields";
import { wantAgain, wantLess } from "../jobs/demand";
import { BinField, binToPut, ownStore } from "./bins";
import type { MovedGoods } from "./move-goods";
import { pickedRows, type TheirRow } from "./pick-rows";
import { openEntry, post } from "./post";
import { takeFrom, takeIn, valueOfFound } from "./stock";
import { openStockPaper, stockedItem } from "./stock-paper";

/** Where goods are taken: from one bin and lot, or, where no bin is named, first expired, first out. */
const From = z.object({
  item: Id,
  quantity: QuantityField,
  bin: orNone(text(20)).default(null),
  lot: orNone(Id).default(null),
  /** Whose goods; empty: as the agreements with suppliers say. */
  whose: orNone(z.union([z.literal("ours"), Id])).default(null),
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
 * less. What other jobs hold stays. Where a supplier's goods of the item lie here, too, the agreement says whose go first;
 * theirs become ours in the same act, with order and receipt, and leave at the agreed price (domain-goods §13).
 */
export const issueGoods = (desk: Desk, raw: unknown): Done<MovedGoods> => issue(desk, IssueGoods, raw, "move stock");

/** The same for somebody at a job, who takes what it uses and nothing else. */
export const issueAtJob = (desk: Desk, raw: unknown): Done<MovedGoods> =>
  issue(
    desk,
    IssueGoods.refine((v) => v.job !== null, { path: ["job"], message: "Say for which job." }),
    raw,
    "use at jobs",
  );

function issue(
  desk: Desk,
  schema: typeof IssueGoods,
  raw: unknown,
  act: "move stock" | "use at jobs",
): Done<MovedGoods> {
  const input = checked(schema, raw);
  if (!input.ok) return input;
  ripenTheirs(desk);
  return once(desk, act, (tx) => {
    const own = act === "use at jobs" ? refilledHere(tx.db, input.value) : ownStore(desk, tx.db, input.value.store);
    if (!own.ok) return own;
    const issued = issueRows(tx.db, desk, input.value);
    if (!issued.ok) return issued;
    const { job, store } = input.value;
    tx.record("goods.issued", job === null ? `store ${store}` : `job ${job}`, issued.value.trail);
    return done({ paper: issued.value.paper, number: issued.value.number });
  });
}

/** Somebody at a job takes what suppliers keep here; all else the store issues. */
function refilledHere(db: Db, of: Issuing): Done<null> {
  const no = of.rows.findIndex((r) => boundItems(db, r.item, of.store).length === 0);
  return no < 0
    ? done(null)
    : refuse(
        `rows.${no}.quantity`,
        `No supplier keeps ${stockedItem(db, of.rows[no]!.item)?.name ?? "this"} here: the store issues it.`,
      );
}

type Issuing = z.output<typeof IssueGoods>;

/** Issues goods, as they were named, with one paper. Inside the act's transaction; `trail` is what its audit row says. */
export function issueRows(db: Db, desk: Desk, of: Issuing): Done<MovedGoods & { trail: object }> {
  const { store, job, reason, rows, named } = of;
  if (job !== null && openJob(db, job) === null) return refuse("job", "There is no such job, or it is closed.");
  const picked = pickedRows(db, desk, { store, job, named }, rows);
  if (!picked.ok) return picked;
  const { paper, number } = openStockPaper(db, desk, { kind: "issue", store, job, reason });
  const entry = openEntry(db, desk, "issue");
  const theirs = picked.value.flatMap((r) => r.theirs);
  let value = issueTheirs(db, desk, { job, reason, paper, entry }, theirs);
  for (const p of picked.value) {
    const goods = { item: p.item, store, quantity: p.quantity, kind: "issue" as const, entry, paper };
    if (p.from.length > 0) value += takeFrom(db, desk, job === null ? goods : { ...goods, job }, p.from);
    if (job !== null) wantLess(db, job, p.item, store, p.quantity);
  }
  post(db, entry, stockPostings(value, "used"));
  return done({
    paper,
    number,
    trail: {
      number,
      store,
      job,
      reason,
      rows: picked.value.map(({ item, quantity, from }) => ({ item, quantity, from })),
      theirs: theirs.map((t) => ({ item: t.item, quantity: t.quantity, agreement: t.agreement.number })),
    },
  });
}

/** What a use takes of suppliers' goods becomes ours and leaves at once. Returns the value that went, below zero. */
function issueTheirs(
  db: Db,
  desk: Desk,
  of: { job: JobId | null; reason: string; paper: number; entry: number },
  rows: readonly TheirRow[],
): number {
  const byAgreement = new Map<number, TheirRow[]>();
  for (const t of rows) byAgreement.set(t.agreement.id, [...(byAgreement.get(t.agreement.id) ?? []), t]);
  let value = 0;
  for (const [first, ...more] of byAgreement.values()) {
    const { ours } = bringTheirs(db, desk, {
      agreement: first!.agreement,
      what: "used",
      job: of.job,
      paper: of.paper,
      note: of.reason,
      rows: [first!, ...more],
    });
    for (const one of ours)
      value += leaveAtOnce(db, desk, one, { ...of, store: first!.agreement.store, kind: "issue" });
  }
  return value;
}

export const openJob = (db: Db, job: JobId): string | null =>
  sql<{ name: string }>(db, "SELECT kind || ' ' || code AS name FROM job WHERE id = ? AND closed IS NULL").get(job)
    ?.name ?? null;

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

/**
 * A job gives goods back that it did not use: at most what was issued to it, and it wants that much again. What it has of
 * ours comes back first; then uses of suppliers' goods are taken back, the last first.
 */
export function takeBackFromJob(desk: Desk, raw: unknown): Done<MovedGoods> {
  const input = checked(GiveGoodsBack, raw);
  if (!input.ok) return input;
  const { store, job, item, quantity, lot, reason } = input.value;
  ripenTheirs(desk);
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
    const uses = usesOfJob(tx.db, { job, item, store, lot });
    const ours = Math.min(quantity, issued - uses.reduce((a, u) => a + u.left, 0));
    const typed = input.value.bin;
    const bin = ours === 0 || typed === "" ? done(ownBin(tx.db, item, store)) : binToPut(tx.db, store, typed, "bin");
    if (!bin.ok) return bin;
    const { paper, number } = openStockPaper(tx.db, desk, { kind: "from job", store, job, reason });
    if (ours > 0) {
      const entry = openEntry(tx.db, desk, "issue");
      const value = valueOfFound(tx.db, item, store, ours);
      takeIn(
        tx.db,
        desk,
        { item, store, bin: bin.value, lot, quantity: ours, kind: "issue", job, entry, paper },
        value,
      );
      post(tx.db, entry, stockPostings(value, "used"));
      wantAgain(tx.db, job, item, store, ours);
    }
    const theirs = giveUsesBack(tx.db, desk, uses, { quantity: quantity - ours, bin: typed, paper, reason });
    if (!theirs.ok) return theirs;
    tx.record("goods.given-back", `job ${job}`, { number, store, item, lot, bin: bin.value, quantity, ours, reason });
    return done({ paper, number });
  });
}
