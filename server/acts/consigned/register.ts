import { z } from "zod";
import { type Day, toDay } from "../../../core/calendar/day";
import { oursOn } from "../../../core/consigned/agreement";
import type { ItemId } from "../../../core/ids";
import { showDay } from "../../../core/numbers/format";
import { quantityText } from "../../../core/numbers/quantity";
import { comesWhole } from "../../../core/numbers/units";
import { unitWords } from "../../../core/text";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import {
  type AgreementHead,
  type AgreementItem,
  notOnDay,
  readAgreementHead,
  readAgreementItems,
} from "../../queries/consigned/agreement";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, type Tx } from "../desk";
import { DayOrNone, Id, QuantityField, TickBox, text } from "../fields";
import { BinField, ownStore } from "../stock/bins";
import { move } from "../stock/stock";
import { fillRefills } from "./fill-refills";
import { binForTheirs } from "./their-bins";

const Row = z.object({
  item: Id,
  quantity: QuantityField,
  lot: text(40).default(""),
  expires: DayOrNone.optional(),
  bin: BinField,
});

export const RegisterDelivery = z.object({
  agreement: Id,
  note: text(60, 1, "Type the number of their delivery note."),
  /** It goes above the most of an item, and that is meant. */
  beyond: TickBox,
  rows: z.array(Row).min(1, "Type what came.").max(500, "At most 500 at once."),
});
type RowOf = z.output<typeof Row>;

/**
 * Registers a delivery of a supplier's own goods: their stock rises, our books do not (domain-goods §13). What refills were
 * asked for are met by it, the earliest first. A delivery note comes once.
 */
export function registerDelivery(desk: Desk, raw: unknown): Done<{ delivery: number; number: string }> {
  const input = checked(RegisterDelivery, raw);
  if (!input.ok) return input;
  const { note, beyond, rows } = input.value;
  return once(desk, "register goods", (tx) => {
    const agreement = readAgreementHead(tx.db, input.value.agreement);
    if (!agreement || agreement.revision === 0) return refuse("", "There is no such agreement.");
    const own = ownStore(desk, tx.db, agreement.store);
    if (!own.ok) return own;
    const no = notOnDay(agreement, desk.day) ?? setBack(tx.db, agreement, desk.day);
    if (no) return refuse("", no);
    const twin = sql<{ number: string; day: Day }>(
      tx.db,
      "SELECT number, day FROM consigned_delivery WHERE agreement = ? AND note = ? COLLATE NOCASE",
    ).get(agreement.id, note);
    if (twin)
      return refuse(
        "note",
        `Delivery note ${note} was registered already: ${twin.number} on ${showDay(twin.day, desk.day)}.`,
      );
    const items = new Map(readAgreementItems(tx.db, agreement.id).map((i) => [i.item, i]));
    const problems = rows.flatMap((r, i) => wrongRow(tx.db, desk, agreement, items, r, i));
    if (problems.length) return refuseAll(problems);
    if (!beyond) {
      const above = aboveMost(tx.db, items, rows);
      if (above) return refuse("beyond", above);
    }
    const number = nextNumber(tx.db, "consigned delivery", desk.day);
    const delivery = Number(
      madeId(
        sql(
          tx.db,
          "INSERT INTO consigned_delivery (number, agreement, note, day, person, at) VALUES (?, ?, ?, ?, ?, ?)",
        ).run(number, agreement.id, note, desk.day, desk.person.id, desk.now),
      ),
    );
    for (const r of rows) {
      const item = items.get(r.item)!;
      const lot = item.byLot ? lotOf(tx.db, r) : null;
      const bin = binForTheirs(tx.db, agreement, { item: r.item, lot }, r.bin, "bin");
      if (!bin.ok) return bin;
      addLayer(tx, desk, agreement, { item, delivery, lot, bin: bin.value, quantity: r.quantity });
    }
    fillRefills(tx.db, items, rows);
    tx.record("goods.registered", `agreement ${agreement.id}`, { number, note, beyond, rows });
    return done({ delivery, number });
  });
}

/** The day of this house must not lie before what was registered or used already. */
export function setBack(db: Db, agreement: AgreementHead, day: Day): string | null {
  const { last } = sql<{ last: Day | null }>(
    db,
    `SELECT max(last) AS last FROM (
       SELECT max(y.day) AS last FROM consigned_layer y JOIN agreement_item x ON x.id = y.agreement_item WHERE x.agreement = @agreement
       UNION ALL SELECT max(t.day) FROM consigned_take t JOIN consigned_layer y ON y.id = t.layer JOIN agreement_item x ON x.id = y.agreement_item WHERE x.agreement = @agreement)`,
  ).get({ agreement: agreement.id })!;
  return last !== null && day < last
    ? `The day of this house is ${showDay(day, day)}, and goods of ${agreement.supplierName} moved on ${showDay(last, day)} already.`
    : null;
}

function wrongRow(
  db: Db,
  desk: Desk,
  agreement: AgreementHead,
  items: ReadonlyMap<ItemId, AgreementItem>,
  r: RowOf,
  i: number,
): Problem[] {
  const at = (field: string, says: string): Problem => ({ field: `rows.${i}.${field}`, says });
  const item = items.get(r.item);
  if (!item || item.gone) return [at("item", `This item is not in ${agreement.name}.`)];
  if (comesWhole(item.unitCode) && r.quantity % 10_000 !== 0)
    return [at("quantity", `${item.name} comes in whole ${unitWords(20_000, item.unit)}.`)];
  if (item.byLot && r.lot === "") return [at("lot", `${item.name} is kept by lot: type it.`)];
  if (r.expires && r.expires < desk.day) return [at("expires", "These expired already: they are not taken in.")];
  const bin = binForTheirs(db, agreement, { item: r.item, lot: null }, r.bin, `rows.${i}.bin`);
  return bin.ok ? [] : bin.problems;
}

/** In words, what goes above the most that may lie here; null where nothing does. */
function aboveMost(db: Db, items: ReadonlyMap<ItemId, AgreementItem>, rows: readonly RowOf[]): string | null {
  const here = sql<{ n: number }>(
    db,
    "SELECT coalesce(sum(rest), 0) AS n FROM consigned_layer WHERE agreement_item = ?",
  );
  for (const item of items.values()) {
    const comes = rows.filter((r) => r.item === item.item).reduce((a, r) => a + r.quantity, 0);
    const sum = here.get(item.id)!.n + comes;
    if (comes > 0 && sum > item.most)
      return `Of ${item.name} ${quantityText(sum)} ${item.unit} would lie here, and ${quantityText(item.most)} is the most. Say that it is meant, or register less.`;
  }
  return null;
}

/** The lot of what came, made where it is new. */
function lotOf(db: Db, r: RowOf): number {
  return sql<{ id: number }>(
    db,
    `INSERT INTO lot (item, code, expires) VALUES (?, ?, ?)
     ON CONFLICT (item, code) DO UPDATE SET expires = coalesce(expires, excluded.expires) RETURNING id`,
  ).get(r.item, r.lot, r.expires ?? null)!.id;
}

/** Their stock rises by so much, as old as today: by a delivery, or found by a count. */
export function addLayer(
  tx: Pick<Tx, "db">,
  desk: Desk,
  agreement: AgreementHead,
  of: {
    item: { id: number; item: ItemId };
    delivery: number | null;
    lot: number | null;
    bin: string;
    quantity: number;
    paper?: number;
  },
): void {
  const { item, lot, quantity } = of;
  move(
    tx.db,
    desk,
    {
      item: item.item,
      store: agreement.store,
      owner: agreement.supplier,
      bin: of.bin,
      lot,
      quantity,
      kind: "consigned",
      ...(of.paper === undefined ? {} : { paper: of.paper }),
    },
    quantity,
    0,
  );
  sql(
    tx.db,
    `INSERT INTO consigned_layer (agreement_item, delivery, item, store, owner, lot, day, quantity, rest, ours_on)
     VALUES (@id, @delivery, @item, @store, @owner, @lot, @day, @quantity, @quantity, @oursOn)`,
  ).run({
    id: item.id,
    delivery: of.delivery,
    item: item.item,
    store: agreement.store,
    owner: agreement.supplier,
    lot,
    day: desk.day,
    quantity,
    oursOn: oursOn(toDay(desk.day), agreement.oursAfter),
  });
}
