import type { Day } from "../../../core/calendar/day";
import type { ItemId, OrderId, ReceiptId, StoreId } from "../../../core/ids";
import { showDay, showQuantity } from "../../../core/numbers/format";
import { ONE } from "../../../core/numbers/quantity";
import { alongTheWalk, withinBins } from "../../../core/stock/bins";
import type { LabelGoods, LabelKind } from "../../../core/stock/label";
import { unitWords } from "../../../core/text";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { readBins } from "./bins";

/** What labels are printed of. */
export type LabelSource =
  | { of: "receipt"; receipt: ReceiptId }
  | { of: "order"; order: OrderId }
  | { of: "item"; item: ItemId; store: StoreId | null; lot: number | null }
  | { of: "bins"; store: StoreId; from: string; to: string };

/** One label with how many of it are printed, unless somebody says otherwise. It holds no price. */
export interface LabelRow {
  key: string;
  title: string;
  about: string;
  goods: LabelGoods;
  copies: number;
}

interface GoodsRow {
  id: number;
  item: ItemId | null;
  code: string | null;
  name: string;
  gtin: string | null;
  bySerial: number;
  lot: string | null;
  expires: Day | null;
  quantity: number;
  unit: string;
  order: string | null;
  supplier: string | null;
  store: string | null;
  bin: string;
  receipt: string | null;
  day: Day | null;
}

/** At least one label, one for each whole unit of purchase. */
const copiesOf = (quantity: number) => Math.max(1, Math.min(1_000, Math.floor(quantity / ONE)));

function goodsLabel(locale: string, r: GoodsRow): LabelGoods {
  const day = (d: Day | null) => (d === null ? "" : showDay(d, "0000", locale, false));
  return {
    texts: {
      code: r.code ?? "",
      name: r.name,
      lot: r.lot ?? "",
      expires: day(r.expires),
      quantity: r.quantity > 0 ? `${showQuantity(r.quantity, locale)} ${unitWords(r.quantity, r.unit)}` : "",
      order: r.order ?? "",
      supplier: r.supplier ?? "",
      bin: r.bin,
      store: r.store ?? "",
      receipt: r.receipt ?? "",
      day: day(r.day),
    },
    code: r.code ?? r.receipt ?? r.order ?? "",
    gtin: r.gtin,
    lot: r.lot ?? "",
    serial: r.bySerial === 1,
    expires: r.expires,
  };
}

const ITEM = "i.code, i.gtin, coalesce(i.by_serial, 0) AS bySerial";
const RECEIPT = `
  SELECT x.id, l.item, ${ITEM}, coalesce(i.name, l.words) AS name, k.code AS lot, k.expires, x.quantity - x.undone AS quantity, u.name AS unit, o.number AS "order",
         s.name AS supplier, t.name AS store, coalesce(nullif(y.bin, ''), nullif(l.bin, ''), p.bin, '') AS bin, r.number AS receipt, r.day
  FROM receipt_line_now x JOIN receipt_line y ON y.id = x.id JOIN receipt r ON r.id = x.receipt JOIN order_line l ON l.id = x.order_line JOIN purchase_order o ON o.id = l.purchase_order
  JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = r.store JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item LEFT JOIN lot k ON k.id = x.lot
  LEFT JOIN item_store p ON p.item = l.item AND p.store = l.store
  WHERE x.receipt = ? AND x.quantity > x.undone ORDER BY x.id`;
const ORDER = `
  SELECT l.id, l.item, ${ITEM}, coalesce(i.name, l.words) AS name, NULL AS lot, NULL AS expires, l.quantity - l.closed_short AS quantity, u.name AS unit, o.number AS "order",
         s.name AS supplier, t.name AS store, coalesce(nullif(l.bin, ''), p.bin, '') AS bin, NULL AS receipt, NULL AS day
  FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = l.store JOIN unit u ON u.code = l.unit
  LEFT JOIN item i ON i.id = l.item LEFT JOIN item_store p ON p.item = l.item AND p.store = l.store
  WHERE l.purchase_order = ? AND l.kind <> 'charge' AND l.quantity > l.closed_short ORDER BY l.position`;
const ONE_ITEM = `
  SELECT i.id, i.id AS item, ${ITEM}, i.name, k.code AS lot, k.expires, 0 AS quantity, u.name AS unit, NULL AS "order", NULL AS supplier, t.name AS store, coalesce(p.bin, '') AS bin,
         NULL AS receipt, NULL AS day
  FROM item i JOIN unit u ON u.code = i.unit LEFT JOIN lot k ON k.item = i.id AND k.id = @lot LEFT JOIN store t ON t.id = @store
  LEFT JOIN item_store p ON p.item = i.id AND p.store = t.id WHERE i.id = @item`;

/** Labels of goods, one row for each line or lot. */
const goodsRows = (locale: string, rows: readonly GoodsRow[]): LabelRow[] =>
  rows.map((r) => ({
    key: String(r.id),
    title: r.name,
    about: [r.code, r.lot && `lot ${r.lot}`].filter(Boolean).join(" · "),
    goods: goodsLabel(locale, r),
    copies: copiesOf(r.quantity),
  }));

/** The label of a load: one for all of it. */
const loadRow = (locale: string, [first]: readonly GoodsRow[]): LabelRow[] =>
  first
    ? [
        {
          key: "load",
          title: first.supplier ?? "",
          about: [first.receipt, first.order].filter(Boolean).join(" · "),
          goods: {
            ...goodsLabel(locale, {
              ...first,
              code: null,
              gtin: null,
              lot: null,
              expires: null,
              quantity: 0,
              name: "",
            }),
            code: first.receipt ?? first.order ?? "",
          },
          copies: 1,
        },
      ]
    : [];

/** What labels a source has of one kind, with how many of each: as many as received, or ordered, or one. */
export function readLabels(db: Db, source: LabelSource, kind: LabelKind): LabelRow[] {
  const { locale } = theCompany(db);
  switch (source.of) {
    case "receipt":
    case "order": {
      const rows =
        source.of === "receipt"
          ? sql<GoodsRow>(db, RECEIPT).all(source.receipt)
          : sql<GoodsRow>(db, ORDER).all(source.order);
      return kind === "load" ? loadRow(locale, rows) : goodsRows(locale, rows);
    }
    case "item":
      return goodsRows(
        locale,
        sql<GoodsRow>(db, ONE_ITEM).all({ item: source.item, store: source.store, lot: source.lot }),
      );
    case "bins": {
      const { name } = sql<{ name: string }>(db, "SELECT name FROM store WHERE id = ?").get(source.store) ?? {
        name: "",
      };
      return readBins(db, source.store)
        .sort(alongTheWalk)
        .filter((b) => withinBins(b.code, source.from, source.to))
        .map((b) => ({
          key: b.code,
          title: b.code,
          about: b.note,
          goods: {
            texts: { bin: b.code, store: name },
            code: b.code,
            gtin: null,
            lot: "",
            serial: false,
            expires: null,
          },
          copies: 1,
        }));
    }
  }
}

/** Something to show a layout with, where nothing of the house is at hand. */
export const EXAMPLE: LabelGoods = {
  texts: {
    code: "EXAMPLE-1",
    name: "An item with a name of usual length",
    lot: "L-2291",
    expires: "5 Mar 2029",
    quantity: "12 boxes",
    order: "26-1001",
    supplier: "A supplier",
    bin: "A12",
    store: "Main store",
    receipt: "D26-1001",
    day: "24 Nov 2026",
  },
  code: "EXAMPLE-1",
  gtin: "4006381333931",
  lot: "L-2291",
  serial: false,
  expires: null,
};

/** Where a receipt or an order belongs: somebody of one store prints labels of that store alone. */
export function storesOfLabels(db: Db, source: LabelSource): StoreId[] {
  const of = (text: string, id: number) =>
    sql<{ store: StoreId }>(db, text)
      .all(id)
      .map((r) => r.store);
  switch (source.of) {
    case "receipt":
      return of("SELECT store FROM receipt WHERE id = ?", source.receipt);
    case "order":
      return of("SELECT DISTINCT store FROM order_line WHERE purchase_order = ?", source.order);
    case "bins":
      return [source.store];
    case "item":
      return source.store === null ? [] : [source.store];
  }
}
