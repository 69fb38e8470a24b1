import { Link } from "react-router";
import { count } from "../../../core/text";
import type { AskerLine, AskerOrder } from "../../../server/queries/orders/asker-order";
import { SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { StateSquare, StripLegend, TallyStrip } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { FactStrip, type Station, WayStrip } from "./order-head";

/** An order as somebody sees it whom it serves and who buys nothing: what comes, how much of it is here, and when. */
export function AskerOrderPage({ order }: { order: AskerOrder }) {
  const w = useWriting();
  const { lines } = order;
  const open = lines.filter((l) => openOf(l) > 0);
  return (
    <SheetAndSlip
      sheet={
        <div className="flex min-h-0 flex-1 flex-col">
          <div className="min-h-0 flex-1 overflow-y-auto">
            <SheetHead title={`Order ${order.name}`} sub={<span className="text-base">{order.supplierName}</span>}>
              <StateSquare state={order.state} />
            </SheetHead>
            <WayStrip stations={stationsOf(order, w)} />
            {(order.held || order.closed) && (
              <p className="mx-4.5 mb-3 border-l-4 border-ink px-3 py-2">
                {order.closed
                  ? `Closed short ${w.day(order.closed, false)}: what is open does not come any more.`
                  : `Held for now; ask ${order.writerName} why.`}
              </p>
            )}
            <FactStrip
              facts={[
                ["Comes to", `${order.storeName} store`],
                ["Wanted by", w.day(order.required)],
                ["Written by", order.writerName],
              ]}
            />
            <table className="w-full">
              <caption className="sr-only">Your lines</caption>
              <Heads
                heads={[
                  { label: "#", width: "w-8" },
                  { label: "Item" },
                  { label: "Ordered", align: "right" },
                  { label: "For you", align: "right" },
                  { label: "Where it stands", width: "w-[22%]" },
                  { label: "Due", align: "right" },
                ]}
              />
              <tbody>
                {lines.map((l) => {
                  const late = order.placed !== null && openOf(l) > 0 && l.due < w.today;
                  return (
                    <tr key={l.id} className="h-9 border-b border-rule-2">
                      <td className="pl-4.5 text-ink-3">{l.position}</td>
                      <td className="px-2 py-1 leading-tight">
                        {l.words}
                        <span className="code block">{l.code}</span>
                      </td>
                      <td className="figure px-2 text-right whitespace-nowrap">
                        {w.quantity(l.quantity)} <span className="font-sans text-xs text-ink-3">{l.unit}</span>
                      </td>
                      <td className="px-2 text-right">
                        {l.serves.map((s) => (
                          <Link
                            key={s.requisition}
                            to={`/requisitions/${s.requisition}`}
                            className="block whitespace-nowrap underline"
                          >
                            {s.number}
                          </Link>
                        ))}
                      </td>
                      <td className="px-2">
                        <TallyStrip
                          ordered={l.quantity}
                          received={l.received}
                          late={late}
                          promised={l.promised}
                          label={`${w.quantity(l.received)} of ${w.quantity(l.quantity)} ${l.unit} received`}
                        />
                      </td>
                      <td
                        className={`px-2 pr-4.5 text-right whitespace-nowrap ${late ? "font-semibold text-signal" : ""}`}
                      >
                        {openOf(l) > 0 ? w.day(l.due) : l.closedShort > 0 ? "closed short" : "in"}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
          <div className="border-t border-rule px-4.5 py-2">
            <StripLegend />
          </div>
        </div>
      }
      slip={
        order.receipts.length > 0 && (
          <SlipPart title="Counted in for you">
            <ul className="border border-rule bg-sheet">
              {order.receipts.map((r) => (
                <li key={r.id} className="flex justify-between border-b border-rule-2 px-2.5 py-1 last:border-0">
                  <Link to={`/receipts/${r.id}`} className="underline">
                    {r.number}
                  </Link>
                  <span className="text-ink-2">{w.day(r.day)}</span>
                </li>
              ))}
            </ul>
          </SlipPart>
        )
      }
      tally={
        <TallyLine>
          <span>{count(lines.length, "line")} for you</span>
          <span>
            <b>{open.length}</b> to come
          </span>
        </TallyLine>
      }
    />
  );
}

const openOf = (l: AskerLine) => Math.max(0, l.quantity - l.received - l.closedShort);

function stationsOf(order: AskerOrder, w: ReturnType<typeof useWriting>): Station[] {
  const done = order.lines.filter((l) => openOf(l) === 0).length;
  const came = order.lines.some((l) => l.received > 0);
  const all = done === order.lines.length;
  return [
    { name: "Written", note: w.day(order.written, false), reached: "yes" },
    {
      name: "Signed off",
      note: order.cleared ? w.day(order.cleared, false) : "",
      reached: order.cleared ? "yes" : order.state === "In sign-off" ? "half" : "no",
    },
    {
      name: "With supplier",
      note: order.placed ? w.day(order.placed, false) : order.cleared ? "waits to be placed" : "",
      reached: order.placed ? "yes" : "no",
    },
    { name: "On the dock", note: "", reached: came ? (all ? "yes" : "half") : "no" },
    {
      name: "All in",
      note: order.placed ? `${done} of ${count(order.lines.length, "line")}` : "",
      reached: came && all ? "yes" : "no",
    },
  ];
}
