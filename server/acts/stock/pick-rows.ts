import { splitUse } from "../../../core/consigned/use";
import type { ItemId, JobId, StoreId, SupplierId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { DOCK, inBin } from "../../../core/stock/bins";
import type { Picked } from "../../../core/stock/pick";
import { type Db, sql } from "../../db/open";
import { type AgreementHead, boundItems, layersOf, notOnDay } from "../../queries/consigned/agreement";
import { heldByJobs } from "../../queries/receiving/undo";
import { othersIn } from "../../queries/stock/bins";
import type { TheirGoods } from "../consigned/bring";
import { pickTheirs } from "../consigned/pick-theirs";
import { type Desk, type Done, done, type Problem, refuse, refuseAll } from "../desk";
import { lyingAt, pickAt } from "./pick";
import { lyingIn, stockedItem } from "./stock-paper";

/** Goods that are to be issued, as a person named them. Stock units. */
export interface ToIssue {
  item: ItemId;
  quantity: number;
  bin: string | null;
  lot: number | null;
  /** Whose goods; null: as the agreements say, and ours where a bin is named. */
  whose: "ours" | SupplierId | null;
}

export type TheirRow = TheirGoods & { agreement: AgreementHead };
export interface PickedRow {
  item: ItemId;
  quantity: number;
  /** Of ours. */
  from: Picked[];
  /** Of suppliers'. */
  theirs: TheirRow[];
}

interface Row extends ToIssue {
  store: StoreId;
  job: JobId | null;
  name: string;
  unit: string;
}

/** From which bins and lots each row is taken, and whose goods; or what is wrong with it. */
export function pickedRows(
  db: Db,
  desk: Desk,
  of: { store: StoreId; job: JobId | null; named: boolean },
  rows: readonly ToIssue[],
): Done<PickedRow[]> {
  const problems: Problem[] = [];
  const picked: PickedRow[] = [];
  const seen = new Set<ItemId>();
  for (const [i, r] of rows.entries()) {
    const found = pickedRow(db, desk, of, r, seen);
    if (found.ok) picked.push(found.value);
    else problems.push({ field: `rows.${i}.quantity`, says: found.problems[0]!.says });
  }
  return problems.length ? refuseAll(problems) : done(picked);
}

function pickedRow(
  db: Db,
  desk: Desk,
  of: { store: StoreId; job: JobId | null; named: boolean },
  r: ToIssue,
  seen: Set<ItemId>,
): Done<PickedRow> {
  const item = stockedItem(db, r.item);
  if (!item) return refuse("", "There is no such item in stock.");
  if (seen.has(r.item)) return refuse("", `${item.name} stands here twice.`);
  seen.add(r.item);
  const row: Row = { ...r, ...of, bin: r.bin ?? (of.named ? DOCK : null), name: item.name, unit: item.unit };
  const split = whoseGoods(db, desk, row);
  if (!split.ok) return split;
  const { ours, theirs } = split.value;
  const from = ours === 0 ? done<Picked[]>([]) : oursFrom(db, desk, row, ours);
  return from.ok ? done({ item: r.item, quantity: r.quantity, from: from.value, theirs }) : from;
}

/** How much of a row is taken of ours, and what of suppliers': as the person named it, else as the agreements say. */
function whoseGoods(db: Db, desk: Desk, r: Row): Done<{ ours: number; theirs: TheirRow[] }> {
  if (r.whose !== null && r.whose !== "ours") return theirsOf(db, desk, r, r.whose, r.quantity);
  const held = heldByJobs(db, r.item, r.store, null).filter((h) => h.job !== r.job);
  const holds = held.reduce((a, h) => a + h.quantity, 0);
  const onHand =
    sql<{ n: number }>(db, "SELECT on_hand AS n FROM item_store WHERE item = ? AND store = ?").get(r.item, r.store)
      ?.n ?? 0;
  const free = Math.max(0, onHand - holds);
  const fromOurs = (): Done<{ ours: number; theirs: TheirRow[] }> => {
    if (r.quantity <= free || holds === 0) return done({ ours: r.quantity, theirs: [] });
    const who = [...new Set(held.map((h) => h.name))].join(", ");
    return refuse(
      "",
      `${who} ${held.length === 1 ? "holds" : "hold"} ${quantityText(holds)} ${r.unit}: ${quantityText(free)} can be issued.`,
    );
  };
  if (r.whose === "ours" || (r.whose === null && r.bin !== null)) return fromOurs();
  const bound = boundItems(db, r.item, r.store).map((b) => ({
    b,
    layers: layersOf(db, b.id, desk.day, { usable: true }),
  }));
  const lie = bound.filter(({ layers }) => layers.length > 0);
  const may = lie.filter(({ b }) => notOnDay(b.agreement, desk.day) === null);
  if (may.length === 0 && (lie.length === 0 || r.quantity <= free)) return fromOurs();
  const usable = lyingAt(db, r.item, r.store, desk.day).reduce(
    (a, l) => a + (l.usable ? Math.max(0, l.quantity) : 0),
    0,
  );
  const split = splitUse(
    Math.min(free, usable),
    may.map(({ b, layers }) => ({
      owner: b.agreement.supplier,
      first: b.agreement.first,
      quantity: layers.reduce((a, l) => a + l.left, 0),
      oldest: layers[0]!.day,
    })),
    r.quantity,
  );
  if (!split) return refuse("", tooMuch(db, desk, r, Math.min(free, usable), lie));
  const theirs: TheirRow[] = [];
  for (const t of split.theirs) {
    const rows = theirsOf(db, desk, r, t.owner, t.quantity);
    if (!rows.ok) return rows;
    theirs.push(...rows.value.theirs);
  }
  return done({ ours: split.ours, theirs });
}

type Lie = { b: ReturnType<typeof boundItems>[number]; layers: ReturnType<typeof layersOf> };

/** Why so much cannot be used, and whose there is how much. */
function tooMuch(_db: Db, desk: Desk, r: Row, ours: number, lie: readonly Lie[]): string {
  const ended = lie.map(({ b }) => notOnDay(b.agreement, desk.day)).find(Boolean);
  const parts = lie
    .filter(({ b }) => notOnDay(b.agreement, desk.day) === null)
    .map(({ b, layers }) => `${quantityText(layers.reduce((a, l) => a + l.left, 0))} of ${b.agreement.supplierName}`);
  return [
    `Only ${[`${quantityText(ours)} of ours`, ...parts].join(" and ")} may be used of ${r.name}.`,
    ...(ended ? [ended] : []),
  ].join(" ");
}

/** What of one supplier's goods is taken: of the agreement whose goods lie there the longest. */
function theirsOf(
  db: Db,
  desk: Desk,
  r: Row,
  owner: SupplierId,
  quantity: number,
): Done<{ ours: number; theirs: TheirRow[] }> {
  const bound = boundItems(db, r.item, r.store, owner).find(
    (b) => layersOf(db, b.id, desk.day, { usable: false }).length > 0,
  );
  if (!bound) return refuse("", `Nothing of theirs lies here of ${r.name}.`);
  const named = r.bin === null ? null : { bin: r.bin, lot: r.lot };
  const picked = pickTheirs(db, { bound, quantity, named }, desk.day);
  return picked.ok
    ? done({ ours: 0, theirs: picked.value.map((p) => ({ ...p, agreement: bound.agreement })) })
    : picked;
}

/** From which bins and lots so much of ours is taken. */
function oursFrom(db: Db, desk: Desk, r: Row, quantity: number): Done<Picked[]> {
  const { item, store, bin, lot } = r;
  const from =
    bin === null
      ? pickAt(db, { item, store, quantity }, desk.day)
      : lyingIn(db, { item, store, bin, lot }) < quantity
        ? null
        : [{ bin, lot, quantity }];
  if (!from && bin === null) return refuse("", `There is not that much ${r.name} that may be used.`);
  if (!from) {
    const there = lyingIn(db, { item, store, bin: bin!, lot });
    const others = there === 0 ? othersIn(db, store, bin!) : null;
    return refuse(
      "",
      others
        ? `What lies ${inBin(bin!)} belongs to ${others}: it is used as theirs.`
        : `Only ${quantityText(there)} ${r.unit} of ${r.name} lie ${inBin(bin!)}.`,
    );
  }
  const wrong = from.map((f) => lotTrouble(db, f.lot, desk.day)).find(Boolean);
  return wrong ? refuse("", wrong) : done(from);
}

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
