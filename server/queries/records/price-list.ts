import type { SupplierId } from "../../../core/ids";
import { priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import type { FileColumn } from "../file-columns";

interface PriceRow {
  item: string;
  supplier: string;
  from: number;
  price: number;
  validFrom: string | null;
  validTo: string | null;
}

/** Columns of the prices file, so that a list that was saved can be changed and loaded again. */
export const PRICE_COLUMNS: readonly FileColumn<PriceRow>[] = [
  { name: "item", width: 14, cell: (p) => p.item },
  { name: "supplier", width: 12, cell: (p) => p.supplier },
  { name: "from", width: 10, as: "number", cell: (p) => quantityText(p.from) },
  { name: "price", width: 12, as: "number", cell: (p) => priceText(p.price) },
  { name: "valid_from", width: 12, as: "day", cell: (p) => p.validFrom ?? "" },
  { name: "valid_to", width: 12, as: "day", cell: (p) => p.validTo ?? "" },
];

/** A supplier's whole price list. */
export const priceRows = (db: Db, supplier: SupplierId): PriceRow[] =>
  sql<PriceRow>(
    db,
    `SELECT i.code AS item, s.code AS supplier, b.from_quantity AS "from", b.price, b.valid_from AS validFrom, b.valid_to AS validTo
     FROM price_break b JOIN sourcing c ON c.id = b.sourcing JOIN item i ON i.id = c.item JOIN supplier s ON s.id = c.supplier
     WHERE c.supplier = ? ORDER BY i.code, b.from_quantity, b.valid_from`,
  ).all(supplier);
