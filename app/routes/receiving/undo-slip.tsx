import { useRef } from "react";
import { useFetcher } from "react-router";
import { quantityText } from "../../../core/numbers/quantity";
import { unitWords } from "../../../core/text";
import type { Undoable } from "../../../server/queries/receiving/undo";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { TextField, UnitField } from "../../ui/field";
import { SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { newKey } from "../../ui/submission";
import type { UndoWord } from "./undo-acts";

type Answer = { ok: true } | { ok: false; problems: { field: string; says: string }[] };

/** Takes a count back: line by line or whole, with what stands in the way and how to free it, in the same place. */
export function UndoSlip({
  number,
  lines,
  asides,
  onLeave,
}: {
  number: string;
  lines: readonly Undoable[];
  /** Goods were set aside with it that nobody decided about yet. */
  asides: boolean;
  onLeave: () => void;
}) {
  const w = useWriting();
  const fetcher = useFetcher<Answer>();
  const key = useRef<string | null>(null);
  const problems = fetcher.data && !fetcher.data.ok ? fetcher.data.problems : [];
  const sent = useRef<number[]>([]);
  const at = (field: string) => problems.find((p) => p.field === field)?.says;
  const atLine = (id: number) => {
    const index = sent.current.indexOf(id);
    return index < 0 ? undefined : at(`lines.${index}.quantity`);
  };
  return (
    <>
      <SlipHead over="a wrong count" title={`Undo ${number}`}>
        <p className="mt-1 text-ink-2">
          The goods leave the stock with what they were worth, and the order is open again. Both papers stay.
        </p>
      </SlipHead>
      <fetcher.Form
        method="post"
        className="flex flex-col gap-3"
        onChange={() => {
          key.current = null;
        }}
        onSubmit={(e) => {
          e.preventDefault();
          if (fetcher.state !== "idle") return;
          const body = new FormData(e.currentTarget);
          // Whole: then what was set aside with it was not counted either.
          const whole = lines.every((l) => body.get(`quantity:${l.id}`) === quantityText(l.left));
          sent.current = lines.map((l) => l.id);
          key.current ??= newKey();
          body.set("do", "undo" satisfies UndoWord);
          body.set("whole", whole ? "yes" : "no");
          body.set("key", key.current);
          void fetcher.submit(body, { method: "post" });
        }}
      >
        {lines.map((l) => (
          <div key={l.id} className="border-t border-rule pt-2">
            <input type="hidden" name={`seen:${l.id}`} value={l.left} />
            <UnitField
              label={`${l.name}${l.lot ? `, lot ${l.lot}` : ""}`}
              unit={`of ${w.quantity(l.left)} ${unitWords(l.left, l.unit)}`}
              name={`quantity:${l.id}`}
              defaultValue={quantityText(l.left)}
              problem={atLine(l.id)}
              hint={
                l.most < l.left
                  ? `${w.quantity(l.most)} can be: ${w.quantity(l.there ?? 0)} ${l.stockUnit} are there`
                  : undefined
              }
            />
          </div>
        ))}
        {asides && (
          <p className="text-xs text-ink-2">
            Where all of it is undone, what was set aside with it and is undecided was not counted either.
          </p>
        )}
        <TextField label="Why, for the books" name="reason" maxLength={300} problem={at("reason")} />
        {at("") && (
          <p role="alert" className="text-xs font-semibold text-signal">
            {at("")}
          </p>
        )}
        <div className="flex gap-2">
          <Button type="submit" look="main" disabled={fetcher.state !== "idle"}>
            Undo it
          </Button>
          <Button onClick={onLeave}>Leave it</Button>
        </div>
      </fetcher.Form>
      {lines.map((l) => (
        <Held key={l.id} line={l} />
      ))}
    </>
  );
}

/** Who holds goods of a line that cannot be undone whole, and a way to free them. */
function Held({ line: l }: { line: Undoable }) {
  const w = useWriting();
  if (l.most >= l.left) return null;
  return (
    <ul className="flex flex-col gap-1">
      {l.held.map((h) => (
        <li key={h.demand}>
          {h.name} holds <span className="figure">{w.quantity(h.quantity)}</span> {l.stockUnit} of {l.name}
          <SlipForm<UndoWord>
            does="free"
            fields={{ line: l.id, demand: h.demand }}
            label={`Free some of it: ${h.name} waits for it again`}
            send="Free it"
          >
            <UnitField label="How much" name="quantity" unit={l.stockUnit} defaultValue={quantityText(h.quantity)} />
          </SlipForm>
        </li>
      ))}
    </ul>
  );
}
