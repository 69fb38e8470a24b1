import { type RefObject, useRef } from "react";
import { LOOKED_AT, type Ripening, type RipeWay, type WayKind } from "../../../core/consigned/outlook";
import { quantityText } from "../../../core/numbers/quantity";
import { count } from "../../../core/text";
import type { ShelfRow, ShelfSlip, SlipMoney } from "../../../server/queries/consigned/shelves";
import { SlipForm } from "../../parts/slip-form";
import { TextField, UnitField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { ShelfWord } from "./shelf-acts";

/** What may be done about a delivery that becomes ours on its day: each with what it costs, one of them proposed. */
export function RipeWays({
  row: r,
  next,
  slip,
  money,
  asks,
  moves,
  opener,
}: {
  row: ShelfRow;
  next: Ripening;
  slip: ShelfSlip;
  money: SlipMoney | null;
  asks: boolean;
  moves: boolean;
  /** Opens what is proposed. */
  opener: RefObject<(() => void) | null>;
}) {
  const w = useWriting();
  const ask = useRef<(() => void) | null>(null);
  const back = useRef<(() => void) | null>(null);
  const ways = money?.ways?.ways ?? [];
  const proposed = money?.ways?.proposed ?? null;
  opener.current = () => (proposed === "ask" ? ask.current : proposed === "send back" ? back.current : null)?.();
  return (
    <SlipPart title="Ways out">
      {ways.length > 0 && (
        <ul className="mb-2 border border-rule bg-sheet">
          {ways.map((x) => (
            <Way key={x.kind} way={x} on={x.kind === proposed} currency={money!.currency} slip={slip} />
          ))}
        </ul>
      )}
      {slip.asked.map((a) => (
        <div key={a.id} className="text-xs text-ink-2">
          <p>
            They were asked for {count(a.days, "day")} more for {w.quantity(a.quantity)}, and have not answered.
          </p>
          {asks && <AnswerForm id={a.id} supplier={r.supplierName} />}
        </div>
      ))}
      <div className="flex flex-col gap-1.5">
        {asks && slip.lastSaid !== "waits" && (
          <SlipForm<ShelfWord>
            does="ask longer"
            fields={{ layers: next.layer }}
            label={`Ask ${r.supplierName} for more days`}
            send="Ask them"
            opener={ask}
          >
            <UnitField label="How many" name="days" unit="days" defaultValue={String(LOOKED_AT)} />
          </SlipForm>
        )}
        {moves && (
          <SlipForm<ShelfWord>
            does="send back"
            fields={{ agreementItem: r.id, layer: next.layer }}
            label="Send some of it back"
            send="Send back"
            opener={back}
          >
            <UnitField
              label={`How much of what came on ${w.day(next.day, false)}`}
              name="quantity"
              unit={r.unit}
              defaultValue={quantityText(next.becomes || next.left)}
            />
            <TextField label="Why" name="reason" maxLength={300} defaultValue="more than we use in time" />
          </SlipForm>
        )}
      </div>
    </SlipPart>
  );
}

function Way({ way: x, on, currency, slip }: { way: RipeWay; on: boolean; currency: string; slip: ShelfSlip }) {
  const w = useWriting();
  const words: Record<WayKind, [string, string]> = {
    let: [
      x.quantity > 0 ? "Let them become ours" : "Let it be",
      x.quantity > 0 ? "order and receipt write themselves" : "all is used in time",
    ],
    ask: [
      `Ask for ${LOOKED_AT} days more`,
      slip.answers > 0 ? `they said yes ${slip.saidYes} of ${count(slip.answers, "time")}` : "they were never asked",
    ],
    "send back": [`Send ${w.quantity(x.quantity)} back`, "what is not used by then"],
  };
  const [what, note] = words[x.kind];
  return (
    <li
      className={`flex justify-between gap-3 border-b border-rule-2 px-2.5 py-1.5 last:border-0 ${on ? "bg-ink text-sheet" : ""}`}
    >
      <span>
        <b className="block">{what}</b>
        <span className={`block text-xs ${on ? "" : "text-ink-2"}`}>
          {note}
          {on && <span className="sr-only">, proposed</span>}
        </span>
      </span>
      <b className="figure shrink-0">{w.money(x.cost, currency)}</b>
    </li>
  );
}

/** What they said by phone or mail. */
function AnswerForm({ id, supplier }: { id: number; supplier: string }) {
  return (
    <SlipForm<ShelfWord> does="answer longer" fields={{ longer: id }} label="Write down what they said" send="Keep it">
      <SelectField
        label="They said"
        name="answer"
        options={[
          { value: "yes", label: "yes" },
          { value: "no", label: "no" },
        ]}
      />
      <TextField label={`Who of ${supplier}`} name="by" maxLength={80} />
      <TextField label="Remark" name="said" maxLength={300} />
    </SlipForm>
  );
}
