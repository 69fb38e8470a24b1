import { Link } from "react-router";
import { count } from "../../../core/text";
import type { SupplierRecord } from "../../../server/queries/records/supplier";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { OrderStrip, StateSquare } from "../../ui/signs";

/** What is open with a supplier. */
export function OpenOrders({ orders }: { orders: SupplierRecord["openOrders"] }) {
  const w = useWriting();
  return (
    <table className="w-full">
      <caption className="sr-only">Open orders</caption>
      <Heads
        heads={[
          { label: "Order" },
          { label: "State" },
          { label: "Where it stands", width: "w-[24%]", wide: true },
          { label: "Next due", align: "right" },
          { label: "Before tax", align: "right" },
        ]}
      />
      <tbody>
        {orders.map((o) => (
          <tr key={o.id} className="h-9 border-b border-rule-2">
            <td className="pl-4.5">
              <Link to={`/orders/${o.id}`} className="font-semibold whitespace-nowrap underline">
                {o.name}
              </Link>{" "}
              <span className="text-xs text-ink-3 max-md:block">{o.storeName}</span>
            </td>
            <td className="px-2">
              <StateSquare state={o.state} />
            </td>
            <td className="px-2 max-md:hidden">
              {o.placed ? (
                <OrderStrip lines={o.lines} linesIn={o.linesIn} linesLate={o.linesLate} />
              ) : (
                <span className="text-xs text-ink-3">not sent</span>
              )}
            </td>
            <td
              className={`px-2 text-right whitespace-nowrap ${o.placed && o.linesLate ? "font-semibold text-signal" : ""}`}
            >
              {o.nextDue ? w.day(o.nextDue, false) : "·"}
            </td>
            <td className="figure pr-4.5 text-right">{w.money(o.net, o.currency)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What was agreed with them, and what needs a look. */
export function Agreements({ agreements }: { agreements: SupplierRecord["agreements"] }) {
  const w = useWriting();
  return agreements.map((b) => (
    <p key={b.id} className="flex min-h-6 flex-wrap items-center gap-x-3 px-4.5">
      <Link to={`/orders/${b.id}`} className="font-semibold underline">
        {b.title || b.name}
      </Link>
      <span className="text-ink-2">
        {b.name}, until {w.day(b.ends, false)}
      </span>
      <span>
        {b.lines.flatMap((l) => (l.warnings[0] ? [`${l.words}: ${l.warnings[0].kind}`] : [])).join("; ") || (
          <span className="text-ink-3">on course</span>
        )}
      </span>
    </p>
  ));
}

/** What they sell us, and for how much. */
export function PriceList({ supplier: s }: { supplier: SupplierRecord }) {
  const w = useWriting();
  return (
    <table className="w-full">
      <caption className="sr-only">Price list</caption>
      <Heads
        heads={[
          { label: "Item" },
          { label: "Theirs", wide: true },
          { label: `From, ${s.currency}`, align: "right" },
          { label: "Lead time", align: "right", wide: true },
          { label: "Preferred", hidden: true, wide: true },
        ]}
      />
      <tbody>
        {s.sold.map((i) => (
          <tr key={i.item} className="h-9 border-b border-rule-2">
            <td className="pl-4.5">
              <Link to={`/items/${i.item}`} className="underline decoration-rule">
                {i.name}
              </Link>{" "}
              <span className="code">{i.code}</span>
            </td>
            <td className="code px-2 max-md:hidden">{i.theirCode}</td>
            <td className="figure px-2 text-right max-md:pr-4.5">
              {i.breaks.length
                ? i.breaks.slice(0, 3).map((b) => (
                    <span key={b.from} className="ml-2 inline-block whitespace-nowrap">
                      {`${w.quantity(b.from)}: ${w.price(b.price, s.currency)}`}
                    </span>
                  ))
                : "no price"}{" "}
              <span className="font-sans text-xs text-ink-3">{i.unit}</span>
            </td>
            <td className="px-2 text-right max-md:hidden">{count(i.leadDays, "day")}</td>
            <td className="pr-4.5 text-right text-xs text-ink-3 max-md:hidden">{i.preferred ? "preferred" : ""}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What was last ordered of them, and what came. */
export function Dealings({ dealings }: { dealings: SupplierRecord["dealings"] }) {
  const w = useWriting();
  return (
    <ul className="px-4.5">
      {dealings.map((d, i) => (
        <li key={i} className="flex min-h-6 items-center gap-3">
          <span className="w-24 shrink-0 text-ink-2">{w.day(d.at, false)}</span>
          <Link to={d.href} className="underline">
            {d.what}
          </Link>
          <span className="truncate text-ink-3">{d.about}</span>
        </li>
      ))}
      {dealings.length === 0 && <li className="text-ink-2">None yet.</li>}
    </ul>
  );
}
