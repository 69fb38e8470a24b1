import type { RefObject } from "react";
import { useState } from "react";
import { Link } from "react-router";
import { addDays } from "../../../core/calendar/day";
import { quantityText } from "../../../core/numbers/quantity";
import { type Awaits, asideWords } from "../../../core/receiving/set-aside";
import { unitWords } from "../../../core/text";
import type { AsideRow } from "../../../server/queries/receiving/set-aside";
import { SlipForm } from "../../parts/slip-form";
import { DateField } from "../../ui/day-entry";
import { FactList } from "../../ui/fact-list";
import { TextField, UnitField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { AsideWord } from "./aside-acts";
import { AsidePictures } from "./aside-pictures";

type Opener = RefObject<(() => void) | null>;

/** One lot of goods set aside: how it came, how its line stands, and what may be done with it. */
export function AsideSlip({
  row: r,
  pictures,
  decides,
  orders,
  keep,
  back,
}: {
  row: AsideRow & { pictures: { id: number; name: string }[] };
  /** May this person add pictures? */
  pictures: boolean;
  decides: boolean;
  /** May this person open orders? */
  orders: boolean;
  keep: Opener;
  back: Opener;
}) {
  const w = useWriting();
  const unit = (q: number) => `${w.quantity(q)} ${unitWords(q, r.unit)}`;
  const facts: [string, string][] = [
    ["Ordered", unit(r.lineOrdered)],
    [r.ordered ? "Came, with what lies here" : "Came", unit(r.lineReceived)],
    [
      "Set aside",
      r.undecided === r.quantity ? unit(r.quantity) : `${unit(r.quantity)}, ${w.quantity(r.undecided)} undecided`,
    ],
    ...(r.lot
      ? [["Lot", r.expires ? `${r.lot}, keeps until ${w.day(r.expires)}` : r.lot] satisfies [string, string]]
      : []),
    ["Delivery note", r.deliveryNote || "none named"],
    ["Counted by", `${r.by}, ${w.day(r.day)}`],
  ];
  return (
    <>
      <SlipHead over={asideWords(r)} title={`${unit(r.undecided)} of ${r.name}`}>
        <p className="mt-1 text-ink-2">
          Line {r.position} of{" "}
          {orders ? (
            <Link className="underline" to={`/orders/${r.order}`}>
              {r.number}
            </Link>
          ) : (
            r.number
          )}
          , {r.supplierName}; counted with{" "}
          <Link className="underline" to={`/receipts/${r.receipt}`}>
            {r.receiptNumber}
          </Link>
        </p>
      </SlipHead>
      {r.note && <p className="border-l-4 border-ink pl-3">{r.note}</p>}
      <SlipPart title="How the line stands">
        <FactList facts={facts} />
      </SlipPart>
      <AsidePictures aside={r.id} pictures={r.pictures} may={pictures} />
      {decides ? (
        <SlipPart title="What becomes of it">
          <Decide row={r} keep={keep} back={back} />
        </SlipPart>
      ) : (
        <p className="text-ink-2">{r.buyer} decides about it.</p>
      )}
    </>
  );
}

function Decide({ row: r, keep, back }: { row: AsideRow; keep: Opener; back: Opener }) {
  const w = useWriting();
  const [awaits, setAwaits] = useState<Awaits>(r.ordered ? "replacement" : "nothing");
  const fields = { aside: r.id, seen: r.undecided };
  const much = (
    <UnitField label="How much of it" name="quantity" unit={r.unit} defaultValue={quantityText(r.undecided)} />
  );
  return (
    <div className="flex flex-col gap-1.5">
      <SlipForm<AsideWord>
        does="keep"
        fields={fields}
        label={r.ordered ? "Release it: it is good after all" : "Keep it: it is taken in"}
        send="Take into stock"
        opener={keep}
      >
        {much}
        <TextField label="Why, for the books" name="reason" maxLength={300} />
      </SlipForm>
      <SlipForm<AsideWord> does="send back" fields={fields} label="Send it back" send="Send back" opener={back}>
        {much}
        <TextField label="Why, for them to read" name="reason" maxLength={300} defaultValue={asideWords(r)} />
        <SelectField
          label="Awaited for it"
          name="awaits"
          value={awaits}
          onChange={(e) => setAwaits(e.target.value as Awaits)} // one of the options below
          options={[
            ...(r.ordered ? [{ value: "replacement", label: "goods instead" }] : []),
            { value: "credit", label: "a credit" },
            { value: "nothing", label: "nothing" },
          ]}
        />
        {awaits === "replacement" && (
          <DateField label="Goods instead by" name="due" defaultValue={addDays(w.today, r.leadDays ?? 14)} />
        )}
      </SlipForm>
      <SlipForm<AsideWord> does="scrap" fields={fields} label="Throw it away" send="Throw away">
        {much}
        <TextField label="Why, for the books" name="reason" maxLength={300} />
      </SlipForm>
      {!r.ordered && (
        <Link className="text-xs underline" to={`/orders/${r.order}`}>
          Change the order instead, then keep it as ordered
        </Link>
      )}
    </div>
  );
}
