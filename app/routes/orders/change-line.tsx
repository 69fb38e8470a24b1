import { useRef, useState } from "react";
import { decimalText } from "../../../core/numbers/decimal";
import { expectedOn, openOf, type Scheduled } from "../../../core/orders/schedule";
import type { Effect } from "../../../core/suppliers/effects";
import type { OrderSheet } from "../../../server/queries/orders/order";
import { SlipForm } from "../../parts/slip-form";
import { answerOf } from "../../ui/answer-of";
import { Button } from "../../ui/button";
import { DateField } from "../../ui/day-entry";
import { TextField } from "../../ui/field";
import { useWriting } from "../../ui/locale";
import { WhatItDoes } from "../suppliers/what-it-does";
import type { OrderWord } from "./order-acts";

type Line = OrderSheet["lines"][number];
type Tried = { ok: true; value: { effects: Effect[]; signs: boolean } } | { ok: false; problems: { says: string }[] };

const scheduleOf = (l: Line): Scheduled[] =>
  l.instalments.length
    ? l.instalments
    : [
        {
          quantity: l.quantity,
          required: l.required,
          promised: l.promised,
          received: l.received,
          closedShort: l.closedShort,
        },
      ];

/** What we ask of an order that its supplier has: a change that waits to be signed, or one of the selected line. */
export function OurChanges({
  sheet: { head },
  line,
  waits,
  writes,
  mayWrite,
}: {
  sheet: OrderSheet;
  line: Line | undefined;
  waits: { reason: string; person: string } | null;
  /** How its writer takes the change back; null for everybody else. */
  writes: { paper: "order"; id: number; version: number } | null;
  mayWrite: boolean;
}) {
  if (head.stage !== "placed" || head.kind === "blanket") return null;
  if (waits)
    return (
      <div className="border-l-4 border-signal pl-3">
        <p>
          A change waits to be signed, asked for by {waits.person}: {waits.reason}. Until then the order stands as it
          does.
        </p>
        {writes && (
          <SlipForm<OrderWord> does="take back" fields={writes} label="Give the change up…" send="Give it up">
            <p className="text-xs text-ink-2">Nobody is asked to sign it any more, and the order stands as it does.</p>
          </SlipForm>
        )}
      </div>
    );
  const open = line && line.kind !== "charge" && line.received + line.closedShort < line.quantity;
  return mayWrite && open ? <ChangeLine key={line.id} line={line} version={head.version} /> : null;
}

/** What we ask to be different of a line that its supplier has: how much when, at which price, or nothing more of it. */
function ChangeLine({ line, version }: { line: Line; version: number }) {
  const w = useWriting();
  const standing = scheduleOf(line)
    .map((s) => ({ quantity: openOf(s), day: expectedOn(s) }))
    .filter((p) => p.quantity > 0);
  const [more, setMore] = useState(0);
  const [none, setNone] = useState(false);
  const [tried, setTried] = useState<Tried | null>(null);
  const fields = useRef<HTMLDivElement>(null);
  const parts = [...standing, ...Array.from({ length: more }, () => null)];
  const look = async () => {
    const form = fields.current?.closest("form");
    if (!form) return;
    const asked = new URLSearchParams();
    for (const [name, value] of new FormData(form)) if (typeof value === "string") asked.set(name, value);
    asked.set("line", String(line.id));
    const answer = await fetch(`${location.pathname}/try-change?${asked}`).catch(() => null);
    setTried(
      answer?.ok ? await answerOf<Tried>(answer) : { ok: false, problems: [{ says: "It could not be worked out." }] },
    );
  };
  return (
    <SlipForm<OrderWord>
      does="change"
      fields={{ version, line: line.id }}
      label={`Change what we ask of line ${line.position}…`}
      send="Change it"
    >
      <div ref={fields} className="flex flex-col gap-2">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            name="cannot"
            value="yes"
            className="accent-harbour"
            checked={none}
            onChange={(e) => setNone(e.target.checked)}
          />
          nothing more of it is wanted
        </label>
        {!none && (
          <>
            {parts.map((p, i) => (
              <div key={`part ${i + 1}`} className="grid grid-cols-2 gap-2">
                <TextField
                  label={i === 0 ? `Still to come (${line.unit})` : "and then"}
                  name={`quantity.${i}`}
                  inputMode="decimal"
                  defaultValue={p ? decimalText(p.quantity, 4) : ""}
                />
                <DateField label="On" name={`day.${i}`} defaultValue={p?.day ?? ""} min={w.today} />
              </div>
            ))}
            {parts.length < 12 && (
              <button type="button" className="self-start text-xs underline" onClick={() => setMore((n) => n + 1)}>
                Another part
              </button>
            )}
            <TextField label="Price, if another" name="price" inputMode="decimal" />
          </>
        )}
        <TextField label="Why" name="reason" maxLength={300} required />
        <div>
          <Button onClick={() => void look()}>See what it does</Button>
        </div>
        {tried && !tried.ok && <p className="text-xs font-semibold text-signal">{tried.problems[0]?.says}</p>}
        {tried?.ok && (
          <>
            <WhatItDoes effects={tried.value.effects} when="Made" />
            {tried.value.signs && <p className="text-xs">It waits for signatures first; until then nothing changes.</p>}
          </>
        )}
      </div>
    </SlipForm>
  );
}
