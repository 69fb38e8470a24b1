import type { Day } from "../../../core/calendar/day";
import type { ItemId, SourcingId, SupplierId } from "../../../core/ids";
import { decimalText } from "../../../core/numbers/decimal";
import { netUnitPrice, type UnitPrice } from "../../../core/numbers/money";
import type { Factor, PurchaseQty } from "../../../core/numbers/quantity";
import { priceFor, sourceWords } from "../../../core/pricing/price";
import type { Sum } from "../../../core/sums/sum";
import { type DepotStock, priceAgainst } from "../../../core/suppliers/their-stock";
import { DepotsColumn, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { priceRecords } from "../prices";

/** A record of what a supplier sells, as a question to them needs it. */
export interface Askable {
  sourcing: SourcingId;
  item: ItemId;
  supplier: SupplierId;
  supplierName: string;
  currency: string;
  theirCode: string;
  code: string;
  unit: string;
  factor: Factor;
  /** Off everything that they sell us. */
  standing: number;
  /** Where they answer; null where they do not. */
  address: string | null;
  token: string | null;
}
export const readAskable = (db: Db, sourcing: SourcingId): Askable | null =>
  sql<Askable>(
    db,
    `SELECT c.id AS sourcing, c.item, s.id AS supplier, s.name AS supplierName, s.currency, c.their_code AS theirCode, i.code, c.unit, c.factor, c.standing_discount AS standing, v.address, v.token
     FROM sourcing c JOIN supplier s ON s.id = c.supplier JOIN item i ON i.id = c.item LEFT JOIN stock_service v ON v.supplier = s.id WHERE c.id = ?`,
  ).get(sourcing) ?? null;

/** Who of these records' suppliers can be asked. */
export const answering = (db: Db, sourcings: readonly SourcingId[]): SourcingId[] =>
  sourcings.filter((id) => readAskable(db, id)?.address != null);

/** What a supplier said of a record last, held against what we would pay. */
export interface TheirStock {
  said: number;
  sourcing: SourcingId;
  supplier: SupplierId;
  supplierName: string;
  quantity: PurchaseQty;
  unit: string;
  currency: string;
  at: string;
  by: string;
  /** What we would pay for one by their word, and by ours: discounts taken off, to the sixth place. */
  price: UnitPrice | null;
  ours: { price: UnitPrice; words: string } | null;
  until: Day;
  depots: DepotStock[];
  /** What theirs costs more for the quantity, in minor units of their currency; null where one price is not known. */
  against: { more: number; sum: Sum } | null;
  taken: boolean;
  /** Why their price cannot be taken over; null where it can. */
  not: string | null;
}

/** What suppliers said today of records, and whose can be asked about. */
export interface SaidToday {
  said: TheirStock[];
  answering: SourcingId[];
}

/** What was said today of a record; null where nobody asked, or what they sell changed since. */
export function readTheirStock(db: Db, sourcing: SourcingId, today: Day): TheirStock | null {
  const row = sql<
    Omit<TheirStock, "depots" | "ours" | "against" | "taken" | "not"> & {
      depots: string;
      taken: number;
      standing: number;
      /** The price on our list that comes to it; null where none does. */
      listed: UnitPrice | null;
    }
  >(
    db,
    `SELECT t.id AS said, t.sourcing, s.id AS supplier, s.name AS supplierName, t.quantity, u.name AS unit, t.currency, t.at, p.name AS "by", t.price, t.listed,
            t.valid_to AS until, t.said AS depots, (SELECT count(*) FROM said_price k WHERE k.said = t.id) AS taken, c.standing_discount AS standing
     FROM said_stock t JOIN sourcing c ON c.id = t.sourcing AND c.unit = t.unit AND c.factor = t.factor AND c.standing_discount = t.standing JOIN supplier s ON s.id = c.supplier AND s.currency = t.currency
     JOIN unit u ON u.code = t.unit JOIN person p ON p.id = t.person WHERE t.sourcing = ? AND t.day = ? ORDER BY t.id DESC LIMIT 1`,
  ).get(sourcing, today);
  if (!row) return null;
  const { standing, depots, taken, listed, ...rest } = row;
  const records = priceRecords(db, sourcing, today);
  const found = priceFor(records, row.quantity, today);
  const ours = found && {
    price: netUnitPrice(found.price, standing),
    words: `${sourceWords(found.source)}${standing ? `, less ${decimalText(standing, 2)} %` : ""}`,
  };
  return {
    ...rest,
    depots: readColumn(DepotsColumn, depots),
    ours,
    against: priceAgainst(row.price, ours, row),
    taken: taken > 0,
    not: whyNot(
      { price: listed, until: row.until },
      found?.source.kind === "blanket" ? found.source.order : null,
      today,
    ),
  };
}

/** Why a price that was said cannot be taken over. */
export function whyNot(
  said: { price: UnitPrice | null; until: Day },
  blanket: string | null,
  today: Day,
): string | null {
  if (said.price === null) return "They name no price.";
  if (said.until < today) return "Their price has run out. Ask them again.";
  return blanket && `${blanket} has its price, and comes first.`;
}
