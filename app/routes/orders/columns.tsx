import { KIND_WORDS } from "../../../core/orders/kinds";
import type { FoundOrder } from "../../../server/queries/orders/finder";
import { type Choosable, columnSet } from "../../ui/columns";
import type { useWriting } from "../../ui/locale";
import { Named } from "../../ui/sheet";
import { OrderStrip, StateSquare } from "../../ui/signs";

interface Ways {
  w: ReturnType<typeof useWriting>;
}
const none = <span className="text-ink-3">·</span>;

/** Every column that the orders can show. */
const COLUMNS: Record<string, Choosable<FoundOrder, Ways>> = {
  number: {
    head: "Order",
    width: 190,
    sorts: true,
    cell: (r) => (
      <Named
        name={r.title || r.supplierName}
        code={[r.name, r.kind === "one-off" ? "" : KIND_WORDS[r.kind], r.title ? r.supplierName : r.storeName]
          .filter(Boolean)
          .join(" · ")}
      />
    ),
  },
  supplier: { head: "Supplier", width: 160, sorts: true, cell: (r) => r.supplierName },
  store: { head: "Store", width: 92, sorts: true, cell: (r) => r.storeName },
  kind: { head: "Kind", width: 92, sorts: true, cell: (r) => KIND_WORDS[r.kind] },
  state: {
    head: "State",
    width: 122,
    keep: 2,
    sorts: true,
    cell: (r) => (r.held ? <b className="text-signal">held</b> : <StateSquare state={r.state} />),
  },
  strip: {
    head: "Where it stands",
    width: 104,
    keep: -1,
    cell: (r) =>
      r.placed && r.kind !== "blanket" ? (
        <OrderStrip lines={r.lines} linesIn={r.linesIn} linesLate={r.state === "Closed short" ? 0 : r.linesLate} />
      ) : (
        <span className="text-xs text-ink-3">{r.kind === "blanket" ? "in force" : "not sent"}</span>
      ),
  },
  lines: { head: "Lines", width: 58, align: "right", cell: (r) => <span className="figure">{r.lines}</span> },
  written: { head: "Written", width: 92, align: "right", sorts: true, cell: (r, { w }) => w.day(r.written, false) },
  placed: {
    head: "Placed",
    width: 92,
    align: "right",
    sorts: true,
    cell: (r, { w }) => (r.placed ? w.day(r.placed, false) : none),
  },
  required: { head: "Wanted by", width: 92, align: "right", sorts: true, cell: (r, { w }) => w.day(r.required, false) },
  due: {
    head: "Next due",
    width: 76,
    keep: 1,
    align: "right",
    cell: (r, { w }) =>
      r.nextDue && r.placed ? (
        <span className={r.linesLate > 0 ? "font-semibold text-signal" : ""}>{w.day(r.nextDue, false)}</span>
      ) : (
        none
      ),
  },
  writer: { head: "Buyer", width: 104, sorts: true, cell: (r) => r.writerName },
  marks: {
    head: "Marks",
    width: 116,
    cell: (r) =>
      r.marks.length ? <span className="text-xs font-semibold text-harbour">{r.marks.join(" · ")}</span> : none,
  },
  amount: {
    head: "Before tax",
    width: 108,
    align: "right",
    cell: (r, { w }) => (
      <>
        <span className="figure">{w.money(r.net, r.currency)}</span>{" "}
        <span className="text-2xs text-ink-3">{r.currency}</span>
      </>
    ),
  },
  net: {
    head: "Before tax, home",
    width: 116,
    keep: 1,
    align: "right",
    sorts: true,
    cell: (r, { w }) => <span className="figure">{w.money(r.homeNet)}</span>,
  },
};

export const ORDER_COLUMNS = columnSet(COLUMNS, ["number", "state", "strip", "due", "marks", "writer", "net"]);
