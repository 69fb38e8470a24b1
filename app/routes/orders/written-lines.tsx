import type { OrderLineId } from "../../../core/ids";
import { expectedOn, openOf } from "../../../core/orders/schedule";
import { count } from "../../../core/text";
import type { OrderHead, OrderLine } from "../../../server/queries/orders/order";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { TallyStrip } from "../../ui/signs";

/** The lines of an order that is written, each with how it stands. */
export function WrittenLines({
  head,
  lines,
  at,
  onAt,
}: {
  head: OrderHead;
  lines: readonly OrderLine[];
  at: number | null;
  onAt: (line: OrderLineId) => void;
}) {
  return (
    <table className="w-full">
      <caption className="sr-only">Lines</caption>
      <Heads
        heads={[
          { label: "#", width: "w-8" },
          { label: "Item" },
          { label: "Ordered", align: "right" },
          { label: "Price", align: "right" },
          { label: "Amount", align: "right" },
          { label: "Where it stands", width: "w-[22%]" },
          { label: "Due", align: "right" },
        ]}
      />
      <tbody>
        {lines.map((l) => (
          <WrittenLine key={l.id} head={head} line={l} selected={l.id === at} onHere={() => onAt(l.id)} />
        ))}
      </tbody>
    </table>
  );
}

function WrittenLine({
  head,
  line: l,
  selected,
  onHere,
}: {
  head: OrderHead;
  line: OrderLine;
  selected: boolean;
  onHere: () => void;
}) {
  const w = useWriting();
  const comes = l.kind !== "charge" && l.received + l.closedShort < l.quantity;
  const late = comes && l.due < w.today && head.placed !== null;
  return (
    <tr
      aria-current={selected ? "true" : undefined}
      onClick={onHere}
      className={`h-9 border-b border-rule-2 ${selected ? "bg-here" : ""}`}
    >
      <td className={`pl-4.5 text-ink-3 ${selected ? "shadow-[inset_4px_0_0_var(--color-harbour)]" : ""}`}>
        {l.position}
      </td>
      <td className="px-2 py-1 leading-tight">
        {l.words}
        <span className="code block">
          {[
            l.code ?? l.kind,
            l.theirCode && `theirs ${l.theirCode}`,
            l.store !== head.store && `to ${l.storeName}`,
            l.blanket && `from ${l.blanket.name}`,
            l.budgetCode,
          ]
            .filter(Boolean)
            .join(" · ")}
        </span>
        {l.note && <span className="block text-xs text-ink-2">{l.note}</span>}
      </td>
      <td className="figure px-2 text-right whitespace-nowrap">
        {w.quantity(l.quantity)} <span className="font-sans text-xs text-ink-3">{l.unit}</span>
      </td>
      <td className="figure px-2 text-right">{l.price === null ? "–" : w.price(l.price, head.currency)}</td>
      <td className="figure px-2 text-right">{w.money(l.net, head.currency)}</td>
      <td className="px-2">
        <TallyStrip
          ordered={l.quantity}
          received={l.received}
          late={late}
          promised={l.promised !== null}
          label={`${w.quantity(l.received)} of ${w.quantity(l.quantity)} ${l.unit} received`}
        />
      </td>
      <td className={`px-2 pr-4.5 text-right whitespace-nowrap ${late ? "font-semibold text-signal" : ""}`}>
        <WhenDue line={l} />
      </td>
    </tr>
  );
}

/** When something of a line comes next, or how it ended. */
function WhenDue({ line: l }: { line: OrderLine }) {
  const w = useWriting();
  if (l.kind === "charge") return <span className="text-ink-3">charge</span>;
  if (l.received + l.closedShort >= l.quantity) return <>{l.closedShort > 0 ? "closed short" : "in"}</>;
  if (l.instalments.length === 0) return <>{w.day(l.due)}</>;
  const open = l.instalments.filter((p) => openOf(p) > 0);
  return (
    <>
      {w.day(expectedOn(open[0] ?? l.instalments.at(-1)!))}
      <span className="block text-2xs text-ink-3">next of {count(open.length, "load")}</span>
    </>
  );
}
