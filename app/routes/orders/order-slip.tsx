import { Link, useSubmit } from "react-router";
import { KIND_WORDS } from "../../../core/orders/kinds";
import type { OrderRow } from "../../../server/queries/orders/lists";
import type { OrderLook } from "../../../server/queries/orders/look";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { StateSquare, TallyStrip } from "../../ui/signs";
import { newKey } from "../../ui/submission";
import { useSlip } from "../../ui/use-slip";
import type { StripFacts } from "./order-head";
import type { OrderSheetWord } from "./sheet-acts";

interface Props {
  row: OrderRow;
  /** Shows its lines and marks, too. */
  quick?: boolean;
  marks?: readonly { id: number; name: string }[];
  mayMark?: boolean;
}

/** About the selected order of a list. */
export function OrderSlip({ row, quick = false, marks = [], mayMark = false }: Props) {
  const w = useWriting();
  const facts: StripFacts = [
    ["Store", row.storeName],
    ["Buyer", row.writerName],
    ["Written", w.moment(row.written)],
    ["Placed", row.placed ? w.moment(row.placed) : "not yet"],
    ["Wanted by", w.day(row.required)],
    ["Before tax", w.amount(row.net, row.currency)],
    ...(row.currency === w.home ? [] : [["In home currency", w.amount(row.homeNet)] as const]),
  ];
  return (
    <>
      <SlipHead
        over={row.kind === "one-off" ? row.name : `${KIND_WORDS[row.kind]} · ${row.name}`}
        title={row.title || row.supplierName}
      >
        <p className="mt-1">
          <StateSquare state={row.state} />
        </p>
      </SlipHead>
      {row.held && (
        <p className="border-l-4 border-signal pl-3">
          <b>Held:</b> {row.held}
        </p>
      )}
      {row.sentBack && (
        <p className="border-l-4 border-signal pl-3">
          <b>Sent back:</b> {row.sentBack}
        </p>
      )}
      <dl className="border border-rule bg-sheet">
        {facts.map(([k, v]) => (
          <div key={k} className="flex justify-between border-b border-rule-2 px-2.5 py-1 last:border-0">
            <dt className="text-ink-2">{k}</dt>
            <dd className="figure">{v}</dd>
          </div>
        ))}
      </dl>
      {quick && <Look row={row} marks={marks} mayMark={mayMark} />}
      <p>
        <Link to={`/orders/${row.id}`} className="font-semibold underline">
          Open {row.name}
        </Link>
      </p>
    </>
  );
}

/** The order's lines and marks, without leaving the list. */
function Look({ row, marks, mayMark }: Required<Pick<Props, "row" | "marks" | "mayMark">>) {
  const w = useWriting();
  const submit = useSubmit();
  const { slip } = useSlip<OrderLook>(`/orders/${row.id}/look`, row);
  if (!slip) return null;
  const act = (body: Record<string, string>) =>
    submit({ ...body, key: newKey() }, { method: "post", preventScrollReset: true });
  const others = marks.filter((m) => !slip.marks.some((b) => b.mark === m.id));
  return (
    <>
      {(slip.marks.length > 0 || (mayMark && others.length > 0)) && (
        <SlipPart title="Marks">
          <ul>
            {slip.marks.map((m) => (
              <li key={m.mark} className="flex items-baseline gap-2 py-[2px]">
                <b className="text-harbour">{m.name}</b>
                <span className="text-xs text-ink-3">
                  {m.person ? `by ${m.person}` : "by its rule"}, {w.day(m.at, false)}
                  {m.note && `: ${m.note}`}
                </span>
                {mayMark && (
                  <button
                    type="button"
                    className="ml-auto text-xs underline"
                    aria-label={`Take off the mark ${m.name}`}
                    onClick={() =>
                      act({ do: "take mark off" satisfies OrderSheetWord, order: String(row.id), mark: String(m.mark) })
                    }
                  >
                    Take off
                  </button>
                )}
              </li>
            ))}
          </ul>
          {mayMark && others.length > 0 && (
            <select
              aria-label={`Put a mark on ${row.name}`}
              className="entry mt-1 w-full"
              value=""
              onChange={(e) =>
                act({ do: "mark" satisfies OrderSheetWord, orders: String(row.id), mark: e.target.value })
              }
            >
              <option value="">put a mark on it…</option>
              {others.map((m) => (
                <option key={m.id} value={m.id}>
                  {m.name}
                </option>
              ))}
            </select>
          )}
        </SlipPart>
      )}
      <SlipPart title="Lines">
        <ul className="border border-rule bg-sheet text-xs">
          {slip.lines.map((l) => (
            <li key={l.id} className="border-b border-rule-2 px-2.5 py-1 last:border-0">
              <span className="flex items-baseline gap-2">
                <span className="min-w-0 flex-1 truncate">{l.words}</span>
                <span className="figure whitespace-nowrap">
                  {w.quantity(l.quantity)} <span className="font-sans text-ink-3">{l.unit}</span>
                </span>
              </span>
              {row.placed && row.kind !== "blanket" && l.kind !== "charge" && (
                <TallyStrip
                  ordered={l.quantity}
                  received={l.received}
                  late={l.late}
                  promised={l.promised}
                  label={`${w.quantity(l.received)} of ${w.quantity(l.quantity)} ${l.unit} received`}
                />
              )}
            </li>
          ))}
        </ul>
        {slip.more > 0 && <p className="mt-1 text-xs text-ink-3">and {slip.more} more</p>}
      </SlipPart>
    </>
  );
}
