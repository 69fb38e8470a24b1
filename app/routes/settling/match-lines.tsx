import { quantityText } from "../../../core/numbers/quantity";
import type { MatchLine } from "../../../server/queries/settling/match-page";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";

/** Ordered outlined, received solid, invoiced ruled in ink: one scale for all lines; what is not here in signal. */
function MatchBars({
  line: l,
  against: a,
  most,
}: {
  line: MatchLine;
  against: NonNullable<MatchLine["against"]>;
  most: number;
}) {
  const share = (q: number) => `${Math.min(100, (q / most) * 100)}%`;
  const over = Math.max(0, l.quantity - a.billable);
  // What other invoices billed comes before what this one may bill.
  const before = a.received - a.billable;
  return (
    <div
      className="flex items-center gap-3"
      role="img"
      aria-label={`${quantityText(a.ordered)} ordered, ${quantityText(a.received)} received, ${quantityText(l.quantity)} invoiced`}
    >
      <div className="flex min-w-0 flex-1 flex-col gap-[3px]">
        <span className="h-[9px] border border-ink-3" style={{ width: share(a.ordered) }} />
        <span className="h-[9px] bg-harbour" style={{ width: share(a.received) }} />
        <span className="flex h-[3px]" style={{ paddingLeft: share(before) }}>
          <span className="bg-ink" style={{ width: share(l.quantity - over) }} />
          <span className="bg-signal" style={{ width: share(over) }} />
        </span>
      </div>
      <ul className="figure w-14 text-right text-2xs leading-[13px]" aria-hidden="true">
        <li>{quantityText(a.ordered)}</li>
        <li>{quantityText(a.received)}</li>
        <li className={over ? "text-signal" : ""}>{quantityText(l.quantity)}</li>
      </ul>
    </div>
  );
}

/** The lines of an invoice against their order lines. */
export function MatchLines({
  lines,
  currency,
  at,
  onAt,
}: {
  lines: readonly MatchLine[];
  currency: string;
  at: number;
  onAt: (position: number) => void;
}) {
  const most = Math.max(
    1,
    ...lines.flatMap((l) =>
      l.against && !l.against.charge ? [l.against.ordered, l.against.received, l.quantity] : [],
    ),
  );
  return (
    <table className="w-full">
      <caption className="sr-only">Lines</caption>
      <Heads
        heads={[
          { label: "Line" },
          { label: "Ordered, received, invoiced", width: "w-2/5", wide: true },
          { label: "Price", align: "right", width: "w-24", wide: true },
          { label: "Theirs", align: "right", width: "w-24" },
          { label: "Difference", align: "right", width: "w-28" },
        ]}
      />
      <tbody>
        {lines.map((l) => (
          <Row
            key={l.id}
            line={l}
            currency={currency}
            most={most}
            chosen={l.position === at}
            onAt={() => onAt(l.position)}
          />
        ))}
      </tbody>
    </table>
  );
}

/** Theirs against ours: dearer in signal, cheaper in weed. */
const lookOf = (more: number) => (more > 0 ? "text-signal" : more < 0 ? "text-weed" : "");

function Row({
  line: l,
  currency,
  most,
  chosen,
  onAt,
}: {
  line: MatchLine;
  currency: string;
  most: number;
  chosen: boolean;
  onAt: () => void;
}) {
  const w = useWriting();
  const { against, difference } = l;
  return (
    <tr
      aria-selected={chosen}
      className={`h-14 cursor-pointer border-b border-rule-2 ${chosen ? "bg-here" : ""}`}
      onClick={onAt}
    >
      <td className="pl-4.5 leading-tight">
        <button type="button" className="text-left" onClick={onAt}>
          {l.words}
          <span className="code block">{[l.code, l.unit, l.orderNumber].filter(Boolean).join(" · ")}</span>
        </button>
      </td>
      <td className="px-2 max-md:hidden">
        {against === null || against.charge ? (
          <span className="text-xs text-ink-2">{against ? "a charge" : "on no order"}</span>
        ) : (
          <MatchBars line={l} against={against} most={most} />
        )}
      </td>
      <td className="figure px-2 text-right max-md:hidden">{against && w.price(against.price, currency)}</td>
      <td className={`figure px-2 text-right ${lookOf(against ? l.price - against.price : 0)}`}>
        {w.price(l.price, currency)}
      </td>
      <td className={`figure px-2 pr-4.5 text-right ${lookOf(difference)}`}>
        {difference === 0 ? (
          <span className="text-ink-3">·</span>
        ) : (
          `${difference > 0 ? "+" : ""}${w.money(difference, currency)}`
        )}
      </td>
    </tr>
  );
}
