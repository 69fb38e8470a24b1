import type { Day } from "../../../core/calendar/day";
import { readDespatchAdvice } from "../../../exchange/ubl/despatch-advice";
import type { Db } from "../../db/open";
import { theCompany } from "../../queries/company";
import { readToRegister, refillItems } from "../../queries/consigned/to-register";
import { type Done, done, refuse } from "../desk";
import { noteFromFile } from "../receiving/note-from-file";

/** What a file says of a delivery: texts as the page has them. */
export interface ReadDelivery {
  note: string;
  rows: { item: number; quantity: string; lot: string; expires: string }[];
  strangers: string[];
}

/**
 * Reads what a supplier's delivery of their own goods holds: a delivery note as CSV or workbook by item, or a UBL
 * DespatchAdvice that names one of our refills as its order and the lines of it, counted from 1 in the order of our codes.
 */
export async function deliveryFromFile(
  db: Db,
  agreement: number,
  file: { name: string; bytes: Uint8Array },
  today: Day,
): Promise<Done<ReadDelivery>> {
  const to = readToRegister(db, agreement, today);
  if (!to) return refuse("file", "There is no such agreement that runs.");
  if (/\.xml$/i.test(file.name)) return fromAdvice(db, agreement, file.bytes);
  const lines = to.items.map((i, n) => ({
    line: i.item,
    code: i.code,
    theirCode: i.theirCode,
    gtin: i.gtin,
    position: n + 1,
  }));
  const read = await noteFromFile(file.bytes, lines, { today, locale: theCompany(db).locale });
  if (!read.ok) return read;
  return done({
    note: "",
    rows: read.value.parts.map((p) => ({ item: p.line, quantity: p.count, lot: p.lot, expires: p.expires })),
    strangers: read.value.strangers,
  });
}

function fromAdvice(db: Db, agreement: number, bytes: Uint8Array): Done<ReadDelivery> {
  const read = readDespatchAdvice(bytes);
  if (!read.ok) return refuse("file", read.says);
  const { advice } = read;
  const rows: ReadDelivery["rows"] = [];
  const strangers: string[] = [];
  for (const l of advice.lines) {
    const items = refillItems(db, agreement, l.order ?? advice.order ?? "");
    const item = items?.[Number(l.line) - 1];
    if (!items)
      return refuse("file", `It names ${l.order ?? advice.order ?? "no order"}, which is no refill of this agreement.`);
    if (item === undefined) {
      strangers.push(`line ${l.line}`);
      continue;
    }
    const lots = l.lots.length > 0 ? l.lots : [{ lot: null, serial: null, expires: null }];
    // Of several lots on one line it does not say how much of each: that is typed.
    for (const [i, lot] of lots.entries())
      rows.push({
        item,
        quantity: i === 0 ? l.quantity : "",
        lot: lot.serial ?? lot.lot ?? "",
        expires: lot.expires ?? "",
      });
  }
  return done({ note: advice.id, rows, strangers });
}
