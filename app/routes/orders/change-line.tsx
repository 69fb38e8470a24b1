import { useRef, useState } from "react";
import { Link } from "react-router";
import { decimalText } from "../../../core/numbers/decimal";
import { isPlain } from "../../../core/orders/kinds";
import { expectedOn, openOf, type Scheduled } from "../../../core/orders/schedule";
import type { Effect } from "../../../core/suppliers/effects";
import type { WaitingChange } from "../../../server/acts/orders/change-placed";
import type { OrderHead, OrderSheet } from "../../../server/queries/orders/order";
import { LineDifferences } from "../../parts/line-differences";
import { SlipForm } from "../../parts/slip-form";
import { answerOf } from "../../ui/answer-of";
import { Button } from "../../ui/button";
import { DateField } from "../../ui/day-entry";
import { TextField } from "../../ui/field";
import { SelectField } from "../../ui/form";
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

/** What a change may name: stores to come to, and units of what is no item. */
export interface ChangeChoices {
  stores: readonly { id: number; name: string }[];
  units: readonly { code: string; name: string }[];
}

/** What we ask of an order that its supplier has: a change that waits to be signed, or one of the selected line. */
export function OurChanges({
  sheet: { head },
  line,
  waits,
  writes,
  choices,
}: {
  sheet: OrderSheet;
  line: Line | undefined;
  waits: WaitingChange | null;
  /** How its writer takes the change back; null for everybody else. */
  writes: { paper: "order"; id: number; version: number } | null;
  /** Null for whoever may not ask for one. */
  choices: ChangeChoices | null;
}) {
  if (head.stage !== "placed" || head.kind === "blanket") return null;
  if (waits) return <WaitsToBeSigned change={waits} currency={head.currency} writes={writes} />;
  if (!choices) return null;
  const open = line && line.kind !== "charge" && line.received + line.closedShort < line.quantity;
  return (
    <>
      {open && <ChangeLine key={line.id} line={line} head={head} stores={isPlain(head.kind) ? choices.stores : []} />}
      {open && (
        <Link
          className="text-xs underline"
          to={`/tolerances?${new URLSearchParams({ scope: "order line", order: head.number ?? String(head.id), position: String(line.position) })}`}
        >
          What may be kept of this line
        </Link>
      )}
      {head.kind !== "call-off" && <AddToOrder head={head} units={choices.units} />}
    </>
  );
}

/** A change that waits: what would be different with it, and how its writer takes it back. */
function WaitsToBeSigned({
  change,
  currency,
  writes,
}: {
  change: WaitingChange;
  currency: string;
  writes: { paper: "order"; id: number; version: number } | null;
}) {
  const w = useWriting();
  const [before, after] = change.net;
  return (
    <section aria-label="A change that waits" className="border-l-4 border-signal pl-3">
      <p>
        A change waits to be signed, asked for by {change.person}: {change.reason}. Until then the order stands as it
        does.
      </p>
      <LineDifferences
        caption="What the change asks for"
        heads={["As it stands", "With the change"]}
        differences={change.differences}
        figures={[["Net of tax", w.money(before, currency), w.money(after, currency)]]}
        currency={currency}
      />
      {writes && (
        <SlipForm<OrderWord> does="take back" fields={writes} label="Give the change up…" send="Give it up">
          <p className="text-xs text-ink-2">Nobody is asked to sign it any more, and the order stands as it does.</p>
        </SlipForm>
      )}
    </section>
  );
}

/** Looks at what the form that stands around `fields` would do. */
function useTried(more: Record<string, string>) {
  const [tried, setTried] = useState<Tried | null>(null);
  const fields = useRef<HTMLDivElement>(null);
  const look = async () => {
    const form = fields.current?.closest("form");
    if (!form) return;
    const asked = new URLSearchParams(more);
    for (const [name, value] of new FormData(form)) if (typeof value === "string") asked.set(name, value);
    const answer = await fetch(`${location.pathname}/try-change?${asked}`).catch(() => null);
    setTried(
      answer?.ok ? await answerOf<Tried>(answer) : { ok: false, problems: [{ says: "It could not be worked out." }] },
    );
  };
  return { fields, tried, look };
}

function TriedChange({ tried, look }: Pick<ReturnType<typeof useTried>, "tried" | "look">) {
  return (
    <>
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
    </>
  );
}

/** A line more on an order that its supplier has. */
function AddToOrder({ head, units }: { head: OrderHead; units: ChangeChoices["units"] }) {
  const w = useWriting();
  const [kind, setKind] = useState("item");
  const { fields, tried, look } = useTried({ adds: "yes" });
  return (
    <SlipForm<OrderWord>
      does="change"
      fields={{ version: head.version, adds: "yes" }}
      label="Add a line to it…"
      send="Add it"
    >
      <div ref={fields} className="flex flex-col gap-2">
        <SelectField
          label="What"
          name="kind"
          value={kind}
          onChange={(e) => setKind(e.target.value)}
          options={[
            { value: "item", label: "an item of ours" },
            { value: "not stocked", label: "goods in words" },
            { value: "service", label: "a service in words" },
            { value: "charge", label: "a charge" },
          ]}
        />
        <TextField
          label={kind === "item" ? "Code, ours or theirs, or GTIN" : "In words"}
          name={kind === "item" ? "code" : "words"}
          maxLength={kind === "item" ? 80 : 300}
          required
        />
        <div className="grid grid-cols-2 gap-2">
          {kind !== "charge" && <TextField label="Quantity" name="quantity" inputMode="decimal" maxLength={20} />}
          {kind !== "charge" && <DateField label="Wanted on" name="required" defaultValue="" min={w.today} />}
          {kind !== "item" && kind !== "charge" && (
            <SelectField
              label="Unit"
              name="unit"
              defaultValue="C62"
              options={units.map((u) => ({ value: u.code, label: u.name }))}
            />
          )}
          <TextField
            label={`Price, ${head.currency}`}
            name="price"
            inputMode="decimal"
            maxLength={20}
            hint={kind === "item" ? "empty: as agreed" : undefined}
          />
        </div>
        <TextField label="Why" name="reason" maxLength={300} required />
        <TriedChange tried={tried} look={look} />
      </div>
    </SlipForm>
  );
}

/** What we ask to be different of a line that its supplier has: how much when, at which price, or nothing more of it. */
function ChangeLine({ line, head, stores }: { line: Line; head: OrderHead; stores: ChangeChoices["stores"] }) {
  const w = useWriting();
  const standing = scheduleOf(line)
    .map((s) => ({ quantity: openOf(s), day: expectedOn(s) }))
    .filter((p) => p.quantity > 0);
  const [more, setMore] = useState(0);
  const [none, setNone] = useState(false);
  const { fields, tried, look } = useTried({ line: String(line.id) });
  const parts = [...standing, ...Array.from({ length: more }, () => null)];
  return (
    <SlipForm<OrderWord>
      does="change"
      fields={{ version: head.version, line: line.id }}
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
        {!none && stores.length > 1 && line.received === 0 && (
          <SelectField
            label="Comes to"
            name="store"
            defaultValue={line.store}
            options={stores.map((t) => ({ value: t.id, label: t.name }))}
          />
        )}
        <TextField label="Why" name="reason" maxLength={300} required />
        <TriedChange tried={tried} look={look} />
      </div>
    </SlipForm>
  );
}
