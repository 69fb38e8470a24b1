import { addDays } from "../../../core/calendar/day";
import { moneyText } from "../../../core/numbers/money";
import { earlyDiscount, earlySum } from "../../../core/settling/due";
import type { PayableRow, PaymentRow } from "../../../server/queries/settling/payables";
import { SlipForm } from "../../parts/slip-form";
import { DayEntry } from "../../ui/day-entry";
import { Field, TextField } from "../../ui/field";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import type { PayWord } from "./settle-acts";

/** The paper that is looked at: what is left of it, paying early, and paying it with others of the same supplier. */
export function PayPart({ at, rows, pays }: { at: PayableRow; rows: readonly PayableRow[]; pays: boolean }) {
  const w = useWriting();
  const early = at.earlyBy !== null && at.left === at.total && w.today <= at.earlyBy;
  const others = rows.filter((r) => r.id !== at.id && r.supplier === at.supplier && r.currency === at.currency);
  const sum =
    early && at.earlyBy
      ? earlySum(at.total, { by: at.due, early: { percent: at.earlyPercent, by: at.earlyBy } }, at.currency)
      : null;
  return (
    <>
      <SlipHead
        over={at.number}
        title={`${w.amount(at.left, at.currency)} ${at.left > 0 ? "to" : "from"} ${at.supplierName}`}
      >
        {at.left !== at.total && (
          <p className="mt-1 text-ink-2">left of {w.amount(at.total, at.currency)}, the rest is paid</p>
        )}
      </SlipHead>
      {sum && <SumSheet sum={sum} />}
      {at.onList && <p className="text-xs text-ink-2">Pay list {at.onList} pays it.</p>}
      {pays && at.left > 0 && !at.onList && (
        <SlipForm<PayWord>
          key={`${at.id} ${at.left}`}
          does="pay"
          fields={{ payable: at.id }}
          label="Mark it paid"
          send="It is paid"
        >
          <Field label="Paid on">
            {(a) => <DayEntry {...a} name="day" defaultValue={w.today} min={addDays(at.day, -1)} max={w.today} />}
          </Field>
          {early ? (
            <label className="flex items-baseline gap-2 text-xs">
              <input type="checkbox" name="early" value="yes" className="accent-harbour" defaultChecked />
              less {w.amount(earlyDiscount(at.total, at.earlyPercent), at.currency)} for paying early
            </label>
          ) : null}
          <TextField
            label={`Amount, ${at.currency}`}
            name="amount"
            inputMode="decimal"
            maxLength={20}
            defaultValue={moneyText({ minor: at.left, currency: at.currency })}
            hint={early ? "counts where nothing is taken off" : undefined}
          />
          {others.map((r) => (
            <label key={r.id} className="flex items-baseline gap-2 text-xs">
              <input type="checkbox" name="also[]" value={r.id} className="accent-harbour" />
              {r.left < 0 ? "set off" : "and"} {r.number}: {w.amount(r.left, r.currency)}
            </label>
          ))}
        </SlipForm>
      )}
    </>
  );
}

/** What was paid lately, and taking it back. */
export function PaidLately({ payments, pays }: { payments: readonly PaymentRow[]; pays: boolean }) {
  const w = useWriting();
  if (payments.length === 0) return null;
  return (
    <SlipPart title="Paid lately">
      <ul className="flex flex-col gap-2">
        {payments.map((p) => (
          <li key={p.id} className="border-b border-rule-2 pb-1.5 text-xs">
            <p className="flex justify-between gap-3">
              <span>
                {p.supplierName} <span className="code">{p.number}</span>
              </span>
              <span className="figure">{w.amount(p.total, p.currency)}</span>
            </p>
            <p className="text-ink-2">
              {w.day(p.day, false)} for {p.papers}
              {p.takenBack && `; taken back ${w.day(p.takenBack, false)}: ${p.why}`}
            </p>
            {pays && p.takenBack === null && (
              <SlipForm<PayWord>
                does="take back"
                fields={{ payment: p.id, version: p.version }}
                label="Take it back"
                send="Take it back"
              >
                <TextField label="Why" name="why" maxLength={300} />
              </SlipForm>
            )}
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}
