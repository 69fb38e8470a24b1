import { parseQuantity, quantityText } from "../../../core/numbers/quantity";
import { shownChance } from "../../../core/suppliers/chance";
import { count } from "../../../core/text";
import type { NeedRow as Row } from "../../../server/queries/needs/needs";
import { type Choosable, columnSet } from "../../ui/columns";
import type { useWriting } from "../../ui/locale";
import { Named } from "../../ui/sheet";
import { TideBar } from "../../ui/signs";

export const SOURCE_WORDS: Record<string, string> = {
  reorder: "reorder point",
  job: "job",
  requisition: "requisition",
  floor: "floor round",
  file: "file",
  repeat: "repeat",
  ahead: "brought forward",
};

interface Ways {
  w: ReturnType<typeof useWriting>;
  mayWrite: boolean;
  typed: (n: Row) => string | null;
  type: (n: Row, text: string | null) => void;
}

const figure = (text: string, strong = false) => (
  <span className={`figure ${strong ? "font-semibold text-signal" : ""}`}>{text}</span>
);
const none = <span className="text-ink-3">·</span>;

/** Every column that Needs can show, in the order in which they stand when all are chosen. */
const COLUMNS: Record<string, Choosable<Row, Ways>> = {
  item: {
    head: "Item",
    width: 210,
    sorts: true,
    cell: (n) => (
      <Named
        name={n.name}
        code={`${n.code} · ${n.storeName}${n.parts.length ? ` · ${n.parts.length} needs` : n.requisition ? ` · ${n.requisition.number}` : ""}`}
      />
    ),
  },
  source: { head: "Source", keep: -1, width: 96, sorts: true, cell: (n) => SOURCE_WORDS[n.source] ?? n.source },
  store: { head: "Store", keep: 1, width: 92, sorts: true, cell: (n) => n.storeName },
  category: { head: "Category", keep: -1, width: 110, sorts: true, cell: (n) => n.category },
  kind: { head: "Kind", keep: -1, width: 84, sorts: true, cell: (n) => n.kind },
  hand: {
    head: "On hand",
    width: 66,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.stock ? figure(w.quantity(n.stock.onHand)) : none),
  },
  committed: {
    head: "Committed",
    width: 76,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.stock?.committed ? figure(w.quantity(n.stock.committed)) : none),
  },
  order: {
    head: "On order",
    width: 66,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.stock?.onOrder ? figure(w.quantity(n.stock.onOrder)) : none),
  },
  available: {
    head: "Available",
    width: 72,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.stock ? figure(w.quantity(n.stock.available), n.stock.available < 0) : none),
  },
  point: {
    head: "Reorder point",
    width: 92,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.stock ? figure(w.quantity(n.stock.reorderPoint)) : none),
  },
  policy: { head: "Policy", width: 104, sorts: true, cell: (n) => n.policy || none },
  tide: {
    head: "Against point",
    width: 116,
    sorts: true,
    cell: (n) =>
      n.stock ? (
        <TideBar available={n.stock.available} reorderPoint={n.stock.reorderPoint} unit={n.stockUnit} />
      ) : (
        <span className="text-xs text-ink-3">not kept in stock</span>
      ),
  },
  used: {
    head: "Used, 30 days",
    width: 92,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.usage.last30 ? figure(w.quantity(n.usage.last30)) : none),
  },
  before: {
    head: "A year ago, before",
    width: 112,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.usage.before ? figure(w.quantity(n.usage.before)) : none),
  },
  after: {
    head: "A year ago, after",
    width: 106,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.usage.after ? figure(w.quantity(n.usage.after)) : none),
  },
  cover: {
    head: "Days of cover",
    width: 88,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.cover === null ? none : figure(w.quantity(n.cover * 1000))),
  },
  needed: { head: "Needed", width: 78, align: "right", sorts: true, cell: (n, { w }) => w.day(n.neededOn, false) },
  by: {
    head: "Order by",
    width: 84,
    keep: 3,
    align: "right",
    sorts: true,
    cell: (n, { w }) => <OrderBy need={n} day={w.day} />,
  },
  arrives: {
    head: "Arrives",
    width: 78,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.arrives ? w.day(n.arrives, false) : <span className="text-ink-3">never</span>),
  },
  chance: {
    head: "In time",
    width: 70,
    align: "right",
    cell: (n, { w }) => (n.chance === null ? none : figure(w.percent(shownChance(n.chance)))),
  },
  late: {
    head: "Late by",
    width: 74,
    align: "right",
    sorts: true,
    cell: (n) => (n.lateBy ? count(n.lateBy, "day") : none),
  },
  job: { head: "Job", width: 130, sorts: true, cell: (n) => n.forJob ?? none },
  supplier: {
    head: "Supplier",
    width: 150,
    keep: 1,
    sorts: true,
    cell: (n) => n.supplier?.name ?? <b className="text-signal">none yet</b>,
  },
  buyer: { head: "Buyer", width: 104, sorts: true, cell: (n) => n.supplier?.buyer ?? none },
  price: {
    head: "Price",
    width: 86,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.price === null ? none : figure(w.price(n.price, n.supplier?.currency))),
  },
  last: {
    head: "Last price",
    width: 86,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.lastPrice === null ? none : figure(w.price(n.lastPrice, n.supplier?.currency))),
  },
  wanted: {
    head: "Wanted",
    width: 92,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (
      <>
        {figure(w.quantity(n.wanted))} <span className="text-2xs text-ink-3">{n.stockUnit}</span>
      </>
    ),
  },
  suggested: {
    head: "Suggested",
    width: 76,
    align: "right",
    sorts: true,
    cell: (n, { w }) => figure(w.quantity(n.buy)),
  },
  buy: {
    head: "Buy",
    width: 86,
    keep: 3,
    align: "right",
    sorts: true,
    cell: (n, { w, mayWrite, typed, type }) => {
      const text = typed(n) ?? quantityText(n.buy);
      return mayWrite ? (
        <input
          aria-label={`Quantity of ${n.name} to buy, in ${n.unit}`}
          data-need={n.key}
          value={text}
          onChange={(e) => type(n, e.target.value)}
          onBlur={(e) =>
            (e.target.value === quantityText(n.buy) || e.target.value.trim() === "") &&
            typed(n) !== null &&
            type(n, null)
          }
          onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
          aria-invalid={parseQuantity(text).ok ? undefined : true}
          inputMode="decimal"
          maxLength={20}
          className="entry w-[68px] text-right font-mono"
        />
      ) : (
        figure(w.quantity(n.buy))
      );
    },
  },
  unit: {
    head: "Unit",
    width: 64,
    sorts: true,
    quiet: true,
    cell: (n) => <span className="text-ink-2">{n.unit}</span>,
  },
  amount: {
    head: "About",
    width: 92,
    align: "right",
    sorts: true,
    cell: (n, { w }) => (n.homeAmount === null ? none : figure(w.amount(n.homeAmount))),
  },
};

function OrderBy({ need, day }: { need: Row; day: (d: string, weekday?: boolean) => string }) {
  if (need.missesBy > 0) return <span className="font-semibold text-signal">{count(need.missesBy, "day")} late</span>;
  if (!need.supplier) return <span className="text-ink-3">–</span>;
  if (!need.orderBy || !need.arrives) return <span className="font-semibold text-signal">never arrives</span>;
  return need.dueNow ? <b>today</b> : day(need.orderBy, false);
}

export const NEED_SHEET_COLUMNS = columnSet(COLUMNS, [
  "item",
  "hand",
  "committed",
  "order",
  "available",
  "tide",
  "by",
  "chance",
  "buy",
  "unit",
]);
