import { Form, useSubmit } from "react-router";
import { unitWords } from "../../../core/text";
import type { BlanketLineView, BlanketView } from "../../../server/queries/orders/blankets";
import type { OrderHead } from "../../../server/queries/orders/order";
import { SlipForm } from "../../parts/slip-form";
import { BurnLine } from "../../ui/burn-line";
import { Button } from "../../ui/button";
import { DateField } from "../../ui/day-entry";
import { problemAt, TextField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { useWriting } from "../../ui/locale";
import { newKey, useSubmissionKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { useBusy } from "../../ui/use-busy";
import type { OrderWord } from "./order-acts";

interface Props {
  blanket: BlanketView;
  head: OrderHead;
  mayCall: boolean;
  problems?: readonly { field: string; says: string }[];
}

/** A blanket order in force: what is left of each line, how fast it goes, and what is called off next. */
export function BlanketSheet({ blanket, head, mayCall, problems }: Props) {
  const w = useWriting();
  const busy = useBusy();
  const drawn = blanket.lines.reduce((a, l) => a + l.calls.length, 0);
  const key = useSubmissionKey(`${head.version}/${drawn}`);
  return (
    <>
      <Form
        method="post"
        onSubmit={(e) => {
          const field = e.currentTarget.elements.namedItem("key");
          if (field instanceof HTMLInputElement) field.value = key();
        }}
      >
        <input type="hidden" name="do" value={"call off" satisfies OrderWord} />
        <input type="hidden" name="key" defaultValue="" />
        {blanket.lines.map((l) => (
          <section key={l.id} aria-label={l.words} className="border-b border-rule px-4.5 py-3">
            <div className="flex items-baseline gap-3">
              <h2 className="text-base font-bold">{l.words}</h2>
              <span className="code">{l.code}</span>
              <span className="ml-auto text-xs text-ink-2">
                {l.price === null
                  ? "no price"
                  : `${w.price(l.price, head.currency)} ${head.currency} / ${l.terms.unit}`}
                {l.terms.least > 0 && `, at least ${w.quantity(l.terms.least)} at once`}
              </span>
            </div>
            {l.warnings.map((m) => (
              <p key={m.kind} className="mt-1">
                <b className={m.kind === "nearly used" || m.kind === "ends soon" ? "" : "text-signal"}>{m.says}</b>{" "}
                <span className="text-ink-2">{m.does}</span>
              </p>
            ))}
            <div className="mt-2 grid grid-cols-[minmax(0,1fr)_236px] gap-5 max-lg:grid-cols-1">
              <BurnLine line={l.terms} calls={l.calls} runsOut={l.burn.runsOut} label={l.words} />
              <div>
                <p>
                  <b className="figure text-lg">{leftText(l, w)}</b> <span className="text-ink-2">left</span>
                </p>
                <p className="text-xs text-ink-2">
                  of{" "}
                  {l.terms.limits === "value"
                    ? w.amount(l.terms.committedValue, head.currency)
                    : `${w.quantity(l.terms.committed)} ${unitWords(l.terms.committed, l.terms.unit)}`}
                  {l.burn.runsOut && `; at this pace it lasts until ${w.day(l.burn.runsOut)}`}
                </p>
                {mayCall && (
                  <TextField
                    className="mt-2"
                    label={`Call off now, in ${unitWords(20_000, l.terms.unit)}`}
                    name={`call.${l.id}`}
                    inputMode="decimal"
                    maxLength={20}
                    problem={problemAt(problems, `call.${l.id}`)}
                  />
                )}
              </div>
            </div>
            <details className="mt-2">
              <summary className="cursor-pointer text-xs font-semibold text-ink-2 underline">
                The sums and {l.calls.length === 1 ? "the call-off" : `the ${l.calls.length} call-offs`}
              </summary>
              <div className="mt-2 grid max-w-[760px] grid-cols-2 gap-4 max-lg:grid-cols-1">
                <SumSheet sum={l.left.sum} />
                <SumSheet sum={l.burn.sum} />
              </div>
            </details>
          </section>
        ))}
        {mayCall && (
          <div className="flex flex-wrap items-end gap-3 border-b border-rule bg-band px-4.5 py-2.5">
            <DateField
              label="Wanted by"
              name="required"
              hint="empty: as soon as it comes"
              problem={problemAt(problems, "required")}
            />
            <Button type="submit" look="main" disabled={busy}>
              Write the call-off
            </Button>
          </div>
        )}
      </Form>
      <PlannedCalls blanket={blanket} head={head} mayCall={mayCall} />
    </>
  );
}

const leftText = (l: BlanketLineView, w: ReturnType<typeof useWriting>) =>
  l.terms.limits === "value"
    ? w.amount(l.left.leftValue, l.terms.currency)
    : `${w.quantity(l.left.left)} ${unitWords(l.left.left, l.terms.unit)}${l.terms.limits === "both" ? `, ${w.amount(l.left.leftValue, l.terms.currency)}` : ""}`;

/** Call-offs that are planned for later days; each becomes an order with one click. */
function PlannedCalls({ blanket, head, mayCall }: Omit<Props, "problems">) {
  const w = useWriting();
  const planned = blanket.lines
    .flatMap((l) => l.planned.map((p) => ({ ...p, line: l })))
    .sort((a, b) => (a.due < b.due ? -1 : 1));
  return (
    <section aria-label="Planned call-offs" className="px-4.5 py-3">
      <h2 className="text-base font-bold">Planned call-offs</h2>
      {planned.length === 0 && <p className="mt-1 text-ink-2">None is planned.</p>}
      <ul className="mt-1">
        {planned.map((p) => (
          <li key={p.id} className="flex flex-wrap items-center gap-3 border-b border-rule-2 py-1">
            <span className={`w-28 ${p.late ? "font-semibold text-signal" : ""}`}>{w.day(p.due)}</span>
            <span className="figure w-28 text-right">
              {w.quantity(p.quantity)} {unitWords(p.quantity, p.line.terms.unit)}
            </span>
            <span className="min-w-0 flex-1 truncate">{p.line.words}</span>
            {mayCall && (
              <>
                <OneAct
                  does="call off"
                  fields={{
                    planned: p.id,
                    required: p.due >= w.today ? p.due : "",
                    [`call.${p.line.id}`]: p.quantity / 10_000,
                  }}
                  label={`Call it off: ${w.quantity(p.quantity)} ${p.line.terms.unit} of ${p.line.words}`}
                >
                  Call it off
                </OneAct>
                <OneAct does="drop call" fields={{ planned: p.id }} label={`Take away the call-off of ${w.day(p.due)}`}>
                  Take away
                </OneAct>
              </>
            )}
          </li>
        ))}
      </ul>
      {mayCall && blanket.lines.length > 0 && (
        <div className="mt-2">
          <PlanForm blanket={blanket} version={head.version} />
        </div>
      )}
    </section>
  );
}

function OneAct({
  does,
  fields,
  label,
  children,
}: {
  does: OrderWord;
  fields: Record<string, string | number>;
  label: string;
  children: string;
}) {
  const submit = useActSubmit();
  return (
    <button type="button" aria-label={label} className="text-xs underline" onClick={() => submit(does, fields)}>
      {children}
    </button>
  );
}

function useActSubmit() {
  const submit = useSubmit();
  return (does: OrderWord, fields: Record<string, string | number>) =>
    submit({ ...fields, do: does, key: newKey() }, { method: "post" });
}

function PlanForm({ blanket, version }: { blanket: BlanketView; version: number }) {
  return (
    <SlipForm<OrderWord> does="plan call" fields={{ version }} label="Plan a call-off…" send="Plan it">
      <SelectField label="Of" name="line" options={blanket.lines.map((l) => ({ value: l.id, label: l.words }))} />
      <TextField label="Quantity" name="quantity" inputMode="decimal" maxLength={20} required />
      <DateField label="Wanted by" name="due" required />
    </SlipForm>
  );
}
