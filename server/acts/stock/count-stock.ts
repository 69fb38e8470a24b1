import { z } from "zod";
import type { ItemId, StoreId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { DOCK, inBin, withinBins } from "../../../core/stock/bins";
import { stockPostings } from "../../../core/stock/posting";
import { type CountState, differenceOf, notToBook, VERDICTS } from "../../../core/stock/stock-count";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { storeName } from "../../queries/choices";
import { binOf } from "../../queries/stock/bins";
import { type PlaceRow, readPlaces } from "../../queries/stock/stock-counts";
import { boundTo, findTheirs, loseTheirs } from "../consigned/lost-and-found";
import { ripenTheirs } from "../consigned/ripen";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale, type Tx } from "../desk";
import { CountedOrNone, Id, orNone, TickBox, text, Version } from "../fields";
import { ownStore } from "./bins";
import { openEntry, post } from "./post";
import { adjustAt } from "./stock";
import { lyingIn, openStockPaper, stockedItem } from "./stock-paper";

/** A count has at most so many lines: more is several counts. */
const MOST = 5_000;

export const StartCount = z.object({
  store: Id,
  /** From this bin to that one, as people count; an end that is not named is open. */
  from: text(20).default(""),
  to: text(20).default(""),
  category: text(60).default(""),
  item: orNone(Id).default(null),
  /** Who counts does not see what the books say. */
  blind: TickBox,
});

interface Place {
  item: ItemId;
  bin: string;
  lot: number;
  /** 0: ours. */
  owner: number;
  quantity: number;
}

/** Makes a list of what is counted: what lies in a store, or in a range of its bins, or of one group of items. */
export function startCount(desk: Desk, raw: unknown): Done<{ count: number; number: string; lines: number }> {
  const input = checked(StartCount, raw);
  if (!input.ok) return input;
  const { store, from, to, category, item, blind } = input.value;
  return once(desk, "count stock", (tx) => {
    const own = ownStore(desk, tx.db, store);
    if (!own.ok) return own;
    if (!sql(tx.db, "SELECT 1 FROM store WHERE id = ?").get(store)) return refuse("", "There is no such store.");
    const ranged = from !== "" || to !== "";
    const places = sql<Place>(
      tx.db,
      `SELECT b.item, b.bin, b.lot, b.owner, b.quantity FROM stock_balance b JOIN item i ON i.id = b.item
       WHERE b.store = @store AND b.quantity <> 0 AND (@category = '' OR i.category = @category) AND (@item IS NULL OR b.item = @item)`,
    )
      .all({ store, category, item })
      .filter((p) => !ranged || (p.bin !== DOCK && withinBins(p.bin, from, to)));
    if (places.length === 0) return refuse("", "Nothing lies there to be counted.");
    if (places.length > MOST)
      return refuse(
        "",
        `${places.length.toLocaleString("en")} places are too many for one list: choose a range of bins or a group of items.`,
      );
    const taken = sql<{ number: string }>(
      tx.db,
      `SELECT c.number FROM stock_count c JOIN stock_count_line l ON l.stock_count = c.id
       WHERE c.store = @store AND c.state IN ('Open', 'Counted') AND (l.item || '/' || l.bin || '/' || coalesce(l.lot, 0) || '/' || coalesce(l.owner, 0)) IN (SELECT value FROM json_each(@places)) LIMIT 1`,
    ).get({ store, places: JSON.stringify(places.map((p) => `${p.item}/${p.bin}/${p.lot}/${p.owner}`)) });
    if (taken) return refuse("", `Some of it stands on count ${taken.number} already. Book or drop that one first.`);
    const what = wordsOf(tx.db, { from, to, category, item, store });
    const number = nextNumber(tx.db, "stock count", desk.day);
    const count = Number(
      madeId(
        sql(
          tx.db,
          "INSERT INTO stock_count (number, store, what, blind, state, day, person, at) VALUES (?, ?, ?, ?, 'Open', ?, ?, ?)",
        ).run(number, store, what, blind ? 1 : 0, desk.day, desk.person.id, desk.now),
      ),
    );
    const add = sql(
      tx.db,
      "INSERT INTO stock_count_line (stock_count, item, bin, lot, owner, expected) VALUES (?, ?, ?, nullif(?, 0), nullif(?, 0), ?)",
    );
    for (const p of places) add.run(count, p.item, p.bin, p.lot, p.owner, p.quantity);
    tx.record("count.started", `store ${store}`, { number, what, blind, lines: places.length });
    return done({ count, number, lines: places.length });
  });
}

/** What is counted, in words. */
function wordsOf(
  db: Db,
  {
    from,
    to,
    category,
    item,
    store,
  }: { from: string; to: string; category: string; item: ItemId | null; store: StoreId },
): string {
  const bins = from && to ? `bins ${from} to ${to}` : from ? `bins from ${from} on` : to ? `bins up to ${to}` : "";
  const goods = item === null ? category : (stockedItem(db, item)?.name ?? "");
  return [bins, goods].filter(Boolean).join(", ") || `all of ${storeName(db, store)}`;
}

interface Head {
  id: number;
  number: string;
  store: StoreId;
  state: CountState;
  version: number;
}

/** A count that is not over, in a store of this person's. */
function openCount(db: Db, desk: Desk, id: number): Done<Head> {
  const head = sql<Head>(db, "SELECT id, number, store, state, version FROM stock_count WHERE id = ?").get(id);
  if (!head) return refuse("", "There is no such count.");
  const own = ownStore(desk, db, head.store);
  if (!own.ok) return own;
  if (head.state !== "Open" && head.state !== "Counted")
    return refuse("", `Count ${head.number} is ${head.state.toLowerCase()} already.`);
  return done(head);
}

const Row = z.object({ line: Id, counted: CountedOrNone });
const Found = z.object({
  item: Id,
  bin: text(20).default(""),
  lot: text(40).default(""),
  counted: CountedOrNone,
});

export const HandIn = z.object({
  count: Id,
  rows: z.array(Row).max(MOST).default([]),
  /** What lies there and is not on the list. */
  found: z.array(Found).max(200, "At most 200 at once.").default([]),
});

/**
 * Hands in what was counted, each line against what lies there by the books at that moment. What somebody else counted
 * stays, unless it is to be counted again.
 */
export function handInCount(desk: Desk, raw: unknown): Done<{ counted: number; left: number }> {
  const input = checked(HandIn, raw);
  if (!input.ok) return input;
  const { rows, found } = input.value;
  return once(desk, "count stock", (tx) => {
    const open = openCount(tx.db, desk, input.value.count);
    if (!open.ok) return open;
    const head = open.value;
    const places = new Map(readPlaces(tx.db, head.id).map((l) => [l.id, l]));
    const problems: Problem[] = [];
    let counted = 0;
    for (const [i, r] of rows.entries()) {
      const at = (says: string) => problems.push({ field: `rows.${i}.counted`, says });
      if (r.counted === null) continue;
      const place = places.get(r.line);
      if (!place) at("This line is not on this count.");
      else if (place.counted !== null && place.person !== desk.person.id) at(`${place.by} counted it already.`);
      else {
        keepCounted(tx.db, desk, head.store, place, r.counted);
        counted++;
      }
    }
    for (const [i, f] of found.entries()) {
      if (f.counted === null) continue;
      const added = addFound(tx.db, desk, head, f);
      if (added) problems.push({ ...added, field: `found.${i}.${added.field}` });
      else counted++;
    }
    if (problems.length) return refuseAll(problems);
    if (counted === 0) return refuse("", "Nothing has been counted yet.");
    const left = settle(tx.db, head.id);
    tx.record("count.handed-in", `count ${head.id}`, { number: head.number, rows, found });
    return done({ counted, left });
  });
}

function keepCounted(
  db: Db,
  desk: Desk,
  store: StoreId,
  place: Pick<PlaceRow, "id" | "item" | "bin" | "lot" | "owner">,
  counted: number,
): void {
  sql(
    db,
    "UPDATE stock_count_line SET counted = ?, lay = ?, person = ?, at = ?, verdict = '', reason = '' WHERE id = ?",
  ).run(counted, lyingIn(db, { ...place, store }), desk.person.id, desk.now, place.id);
}

/** Keeps what was found where the list had nothing; or says what is wrong with it. */
function addFound(db: Db, desk: Desk, head: Head, f: z.output<typeof Found>): Problem | null {
  const item = stockedItem(db, f.item);
  if (!item) return { field: "item", says: "Choose an item of which stock is kept." };
  const bin = f.bin === "" ? DOCK : binOf(db, head.store, f.bin)?.code;
  if (bin === undefined) return { field: "bin", says: `There is no bin ${f.bin} here.` };
  const lot =
    f.lot === ""
      ? null
      : (sql<{ id: number }>(db, "SELECT id FROM lot WHERE item = ? AND code = ?").get(f.item, f.lot)?.id ??
        Number(madeId(sql(db, "INSERT INTO lot (item, code) VALUES (?, ?)").run(f.item, f.lot))));
  const there = sql<{ id: number }>(
    db,
    "SELECT id FROM stock_count_line WHERE stock_count = ? AND item = ? AND bin = ? AND lot IS ? AND owner IS NULL",
  ).get(head.id, f.item, bin, lot);
  if (there) return { field: "item", says: `${item.name} ${inBin(bin)} stands on the list.` };
  const lies = lyingIn(db, { item: f.item, store: head.store, bin, lot });
  const id = Number(
    madeId(
      sql(
        db,
        "INSERT INTO stock_count_line (stock_count, item, bin, lot, found, expected) VALUES (?, ?, ?, ?, 1, ?)",
      ).run(head.id, f.item, bin, lot, lies),
    ),
  );
  keepCounted(db, desk, head.store, { id, item: f.item, bin, lot, owner: null }, f.counted!);
  return null;
}

/** A count of which every line is counted is counted. Returns how many lines are left. */
function settle(db: Db, count: number): number {
  const { left } = sql<{ left: number }>(
    db,
    "SELECT count(*) AS left FROM stock_count_line WHERE stock_count = ? AND counted IS NULL",
  ).get(count)!;
  sql(db, "UPDATE stock_count SET state = ?, version = version + 1 WHERE id = ?").run(left ? "Open" : "Counted", count);
  return left;
}

export const JudgeCount = z.object({
  count: Id,
  rows: z
    .array(
      z.object({
        line: Id,
        what: z.enum(VERDICTS),
        /** What was counted, as the person saw it. */ seen: z.coerce.number().int().nonnegative(),
      }),
    )
    .min(1, "Choose which difference.")
    .max(MOST),
  reason: text(200).default(""),
});

/** Decides about differences: they are booked, counted again, or left. Nobody decides about what they counted themselves. */
export function judgeCount(desk: Desk, raw: unknown): Done<{ judged: number }> {
  const input = checked(JudgeCount, raw);
  if (!input.ok) return input;
  const { rows, reason } = input.value;
  return once(desk, "judge counts", (tx) => {
    const open = openCount(tx.db, desk, input.value.count);
    if (!open.ok) return open;
    const places = new Map(readPlaces(tx.db, open.value.id).map((l) => [l.id, l]));
    for (const r of rows) {
      const place = places.get(r.line);
      if (!place || place.counted === null) return refuse("", "This line is not counted.");
      if (place.counted !== r.seen) return stale(`${place.name} was counted anew meanwhile.`);
      if (r.what !== "again" && place.person === desk.person.id && differenceOf(place) !== 0)
        return refuse("", "You counted this yourself: somebody else decides about it.");
      if (r.what === "leave" && reason.length < 3) return refuse("reason", "Say why the books stay as they are.");
    }
    for (const r of rows)
      if (r.what === "again")
        sql(
          tx.db,
          "UPDATE stock_count_line SET counted = NULL, lay = NULL, person = NULL, at = NULL, verdict = 'again', reason = ? WHERE id = ?",
        ).run(reason, r.line);
      else sql(tx.db, "UPDATE stock_count_line SET verdict = ?, reason = ? WHERE id = ?").run(r.what, reason, r.line);
    settle(tx.db, open.value.id);
    tx.record("count.judged", `count ${open.value.id}`, { number: open.value.number, rows, reason });
    return done({ judged: rows.length });
  });
}

const OfCount = z.object({ count: Id, version: Version });

/** Books the differences that were decided to be booked: one paper, one entry of the journal. What is not counted stays. */
export function bookCount(desk: Desk, raw: unknown): Done<{ number: string; booked: number }> {
  const input = checked(OfCount, raw);
  if (!input.ok) return input;
  ripenTheirs(desk);
  return once(desk, "judge counts", (tx) => {
    const open = openCount(tx.db, desk, input.value.count);
    if (!open.ok) return open;
    const head = open.value;
    if (head.version !== input.value.version) return stale("Somebody counted or decided meanwhile: look again.");
    const places = readPlaces(tx.db, head.id);
    const no = notToBook(places);
    if (no) return refuse("", no);
    const moves = places.filter((l) => l.verdict === "book" && differenceOf(l) !== 0);
    const short = moves.find((l) => lyingIn(tx.db, { ...l, store: head.store }) + differenceOf(l)! < 0);
    if (short)
      return refuse(
        "",
        `Of ${short.name} ${inBin(short.bin)} only ${quantityText(lyingIn(tx.db, { ...short, store: head.store }))} are left by now: count it again.`,
      );
    const { paper, number } = openStockPaper(tx.db, desk, {
      kind: "count",
      store: head.store,
      reason: `Count ${head.number}`,
    });
    bookMoves(
      tx,
      desk,
      head.store,
      paper,
      moves.filter((l) => l.owner === null),
    );
    const theirs = bookTheirs(tx, desk, head, paper, moves);
    if (!theirs.ok) return theirs;
    sql(
      tx.db,
      "UPDATE stock_count SET state = 'Booked', paper = ?, judge = ?, judged = ?, version = version + 1 WHERE id = ?",
    ).run(paper, desk.person.id, desk.now, head.id);
    tx.record("count.booked", `count ${head.id}`, {
      number: head.number,
      paper: number,
      lines: moves.map((l) => ({ item: l.item, bin: l.bin, lot: l.lot, difference: differenceOf(l) })),
    });
    return done({ number, booked: moves.length });
  });
}

function bookMoves(tx: Tx, desk: Desk, store: StoreId, paper: number, moves: readonly PlaceRow[]): void {
  if (moves.length === 0) return;
  const entry = openEntry(tx.db, desk, "count");
  let value = 0;
  for (const l of moves) {
    const difference = differenceOf(l)!;
    value += adjustAt(
      tx.db,
      desk,
      { item: l.item, store, bin: l.bin, lot: l.lot, kind: "count", entry, paper },
      difference,
    );
    sql(tx.db, "UPDATE stock_count_line SET booked = ? WHERE id = ?").run(difference, l.id);
  }
  post(tx.db, entry, stockPostings(value, "stock difference"));
}

/** What is missing of suppliers' goods is lost, and what is more was found: who bears it is as their agreements say. */
function bookTheirs(tx: Tx, desk: Desk, head: Head, paper: number, moves: readonly PlaceRow[]): Done<null> {
  for (const l of moves) {
    if (l.owner === null) continue;
    const difference = differenceOf(l)!;
    const bound = boundTo(tx.db, { ...l, store: head.store, owner: l.owner });
    if (!bound) return refuse("", `Nobody knows under which agreement ${l.name} lies ${inBin(l.bin)}.`);
    const of = { bound, quantity: Math.abs(difference), bin: l.bin, lot: l.lot, paper, note: `Count ${head.number}` };
    const booked = difference < 0 ? loseTheirs(tx, desk, of) : findTheirs(tx, desk, of);
    if (!booked.ok) return refuse("", `${l.name} ${inBin(l.bin)}: ${booked.problems[0]!.says}`);
    sql(tx.db, "UPDATE stock_count_line SET booked = ? WHERE id = ?").run(difference, l.id);
  }
  return done(null);
}

/** Drops a count: nothing of it is booked. */
export function dropCount(desk: Desk, raw: unknown): Done<{ dropped: true }> {
  const input = checked(OfCount.extend({ reason: text(200, 3, "Say why it is dropped.") }), raw);
  if (!input.ok) return input;
  return once(desk, "judge counts", (tx) => {
    const open = openCount(tx.db, desk, input.value.count);
    if (!open.ok) return open;
    if (open.value.version !== input.value.version) return stale("Somebody counted or decided meanwhile: look again.");
    sql(
      tx.db,
      "UPDATE stock_count SET state = 'Dropped', judge = ?, judged = ?, version = version + 1 WHERE id = ?",
    ).run(desk.person.id, desk.now, open.value.id);
    tx.record("count.dropped", `count ${open.value.id}`, { number: open.value.number, reason: input.value.reason });
    return done({ dropped: true });
  });
}
