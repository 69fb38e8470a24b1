import type { Day } from "../../../core/calendar/day";
import type { ItemId, OrderId, SupplierId } from "../../../core/ids";
import type { UnitPrice } from "../../../core/numbers/money";
import { type Db, sql } from "../../db/open";
import { findItems } from "../find";

/** An item that could stand on an order. */
export interface Sold {
  item: ItemId;
  code: string;
  theirCode: string;
  name: string;
  kind: string;
  unit: string;
  /** The price from their list of the day for the least quantity; null where it has none, or they do not sell it. */
  price: UnitPrice | null;
  /** Sold by this order's supplier. */
  own: boolean;
  /** How much of it stands on this order already. */
  here: number;
}

/** What a supplier sells us, by our code, theirs or the name; then, where that is not enough, what others sell. */
export function readSold(db: Db, order: OrderId, supplier: SupplierId, text: string, most: number, day: Day): Sold[] {
  const like = `%${text.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
  const own = sql<Omit<Sold, "own">>(
    db,
    `SELECT i.id AS item, i.code, c.their_code AS theirCode, i.name, i.kind, u.name AS unit,
            (SELECT b.price FROM price_break b WHERE b.sourcing = c.id AND coalesce(b.valid_from, '') <= @day AND coalesce(b.valid_to, '9') >= @day
             ORDER BY b.from_quantity LIMIT 1) AS price,
            coalesce((SELECT sum(l.quantity) FROM order_line l WHERE l.purchase_order = @order AND l.item = i.id), 0) AS here
     FROM sourcing c JOIN item i ON i.id = c.item JOIN unit u ON u.code = c.unit
     WHERE c.supplier = @supplier AND c.active = 1 AND i.active = 1
       AND (i.code LIKE @like ESCAPE '\\' OR i.name LIKE @like ESCAPE '\\' OR c.their_code LIKE @like ESCAPE '\\')
     ORDER BY (i.code LIKE @begins ESCAPE '\\') DESC, i.name LIMIT @most`,
  )
    .all({ order, supplier, like, begins: like.slice(1), most, day })
    .map((s) => ({ ...s, own: true }));
  if (own.length >= most || text.trim().length < 2) return own;
  const known = new Set(own.map((s) => s.item));
  return [
    ...own,
    ...findItems(db, text, most)
      .filter((f) => !known.has(f.id))
      .slice(0, most - own.length)
      .map((f) => ({
        item: f.id,
        code: f.code,
        theirCode: "",
        name: f.name,
        kind: f.about ?? "",
        unit: f.unit ?? "",
        price: null,
        own: false,
        here: 0,
      })),
  ];
}
