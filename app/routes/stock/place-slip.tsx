import type { RefObject } from "react";
import { Link } from "react-router";
import { quantityText } from "../../../core/numbers/quantity";
import { binWords, inBin } from "../../../core/stock/bins";
import { WRITE_OFF_REASONS } from "../../../core/stock/paper";
import { unitWords } from "../../../core/text";
import type { AroundPlace, Place } from "../../../server/queries/stock/shelves";
import { SlipForm } from "../../parts/slip-form";
import { FactList } from "../../ui/fact-list";
import { TextField, UnitField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { PlaceWord } from "./place-acts";

type Opener = RefObject<(() => void) | null>;

/** Goods of one bin: what they are, who holds or wants them, and what may be done with them. */
export function PlaceSlip({
  place: p,
  store,
  around,
  moves,
  writesOff,
  labels,
  openers,
}: {
  place: Place;
  store: number;
  around: AroundPlace;
  moves: boolean;
  writesOff: boolean;
  labels: boolean;
  openers: { move: Opener; issue: Opener };
}) {
  const w = useWriting();
  const unit = (q: number) => `${w.quantity(q)} ${unitWords(q, p.unit)}`;
  const holds = around.held.reduce((a, x) => a + x.quantity, 0);
  const facts: [string, string][] = [
    ...(p.ownerName ? ([["Whose", `${p.ownerName}’s, until it is used`]] satisfies [string, string][]) : []),
    ["Here", unit(p.quantity)],
    ["Ours in the store", unit(around.onHand)],
    ...around.held.map((x): [string, string] => [`${x.name} holds`, unit(x.quantity)]),
    ...(holds > 0 ? ([["Free", unit(Math.max(0, around.onHand - holds))]] satisfies [string, string][]) : []),
    ...(p.lotCode ? ([["Lot", p.lotCode]] satisfies [string, string][]) : []),
    ...(p.expires ? ([["Keeps until", w.day(p.expires)]] satisfies [string, string][]) : []),
    ...(p.held ? ([["Held", p.held]] satisfies [string, string][]) : []),
  ];
  const fields = { store, item: p.item, bin: p.bin, lot: p.lot ?? "", owner: p.owner ?? "" };
  const much = <UnitField label="How much" name="quantity" unit={p.unit} defaultValue={quantityText(p.quantity)} />;
  const expired = p.expires !== null && p.expires < w.today;
  return (
    <>
      <SlipHead over={p.bin ? `bin ${p.bin}` : binWords(p.bin)} title={p.name}>
        <p className="mt-1 text-ink-2">
          <Link className="underline" to={`/items/${p.item}`}>
            {p.code}
          </Link>
          ,{" "}
          <Link className="underline" to={`/items/${p.item}/movements?store=${store}`}>
            its movements
          </Link>
        </p>
      </SlipHead>
      <FactList facts={facts} />
      {moves && (
        <SlipPart title="What is done with it">
          <div className="flex flex-col gap-1.5">
            <SlipForm<PlaceWord>
              does="move"
              fields={fields}
              label="Move it to another bin"
              send="Move"
              opener={openers.move}
            >
              {much}
              <TextField label="Into bin, or empty for the dock" name="to" maxLength={20} autoCapitalize="characters" />
              <TextField label="Why, if there is something to say" name="reason" maxLength={300} />
            </SlipForm>
            {!expired && !p.held && (
              <SlipForm<PlaceWord>
                does="issue"
                fields={fields}
                label="Issue it to a job, or to somebody"
                send="Issue"
                opener={openers.issue}
              >
                {much}
                <SelectField
                  label="Job"
                  name="job"
                  defaultValue={String(around.wanted[0]?.job ?? "")}
                  options={[
                    ...around.wanted.map((j) => ({ value: String(j.job), label: `${j.name} wants ${unit(j.open)}` })),
                    { value: "", label: "no job" },
                  ]}
                />
                <TextField label="Who gets it and what for, where there is no job" name="reason" maxLength={300} />
              </SlipForm>
            )}
            {p.owner === null && around.issued.length > 0 && (
              <SlipForm<PlaceWord> does="from job" fields={fields} label="A job gives some of it back" send="Take back">
                <SelectField
                  label="Job"
                  name="job"
                  options={around.issued.map((j) => ({
                    value: String(j.job),
                    label: `${j.name} has ${unit(j.quantity)}`,
                  }))}
                />
                <UnitField label="How much" name="quantity" unit={p.unit} />
                <TextField
                  label="Into bin"
                  name="into"
                  maxLength={20}
                  defaultValue={p.bin}
                  autoCapitalize="characters"
                />
                <TextField label="Why it comes back" name="reason" maxLength={300} defaultValue="not used" />
              </SlipForm>
            )}
            {writesOff && (
              <SlipForm<PlaceWord> does="write off" fields={fields} label="Write it off" send="Write off">
                {much}
                <SelectField
                  label="Why"
                  name="why"
                  defaultValue={expired ? "spoilt or expired" : "broken"}
                  options={WRITE_OFF_REASONS.map((r) => ({ value: r, label: r }))}
                />
                <TextField label="Remark" name="note" maxLength={300} />
              </SlipForm>
            )}
          </div>
        </SlipPart>
      )}
      {labels && (
        <p>
          <Link className="underline" to={`/labels?item=${p.item}&store=${store}${p.lot ? `&lot=${p.lot}` : ""}`}>
            Labels of it
          </Link>
        </p>
      )}
      {expired && <p className="font-semibold text-signal">What lies {inBin(p.bin)} is expired: it is not issued.</p>}
    </>
  );
}
