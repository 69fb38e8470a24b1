import type { Day } from "../../../core/calendar/day";
import type { StoreId } from "../../../core/ids";
import type { StockDocument } from "../../../exchange/pdf/stock-paper";
import type { Db } from "../../db/open";
import { storeName } from "../choices";
import { theCompany } from "../company";
import { languageOr } from "../papers/templates";
import { readStowList } from "./shelves";
import { readStockPaper } from "./stock-papers";

/** What papers of the house's own stock have in common. */
function ofHouse(db: Db) {
  const company = theCompany(db);
  return {
    company: { name: company.name, address: company.address },
    language: languageOr(db, ""),
    locale: company.locale,
  };
}

/** A paper of the stock as it is printed; null where there is none. */
export function stockDocument(db: Db, id: number): StockDocument | null {
  const found = readStockPaper(db, id);
  if (!found) return null;
  const { head, lines } = found;
  return {
    ...ofHouse(db),
    kind: head.kind,
    number: head.number,
    day: head.day,
    store: head.storeName,
    by: head.person,
    job: head.jobName ?? "",
    reason: head.reason,
    lines: lines.map(({ name, code, quantity, unitCode, lot, expires, from, to }) => ({
      name,
      code,
      quantity: Math.abs(quantity),
      unit: unitCode,
      lot,
      expires,
      from,
      to,
    })),
  };
}

/** The stow list of a store, to walk with. */
export const stowDocument = (db: Db, store: StoreId, by: string, day: Day): StockDocument => ({
  ...ofHouse(db),
  kind: "stow list",
  number: "",
  day,
  store: storeName(db, store),
  by,
  job: "",
  reason: "",
  lines: readStowList(db, store).map(({ name, code, quantity, unitCode, lotCode, expires, into }) => ({
    name,
    code,
    quantity,
    unit: unitCode,
    lot: lotCode,
    expires,
    from: "",
    to: into === "" ? null : into,
  })),
});
