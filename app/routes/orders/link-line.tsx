import type { Day } from "../../../core/calendar/day";
import { showDay, showPrice, showQuantity } from "../../../core/numbers/format";
import type { AnswerWords } from "../../../exchange/pdf/answer-words";
import { lookOf, unitIn } from "../../../exchange/pdf/order-document";
import type { AwaitedLine, Linked } from "../../../server/queries/orders/link";
import { Button } from "../../ui/button";
import { DateField } from "../../ui/day-entry";
import { Field } from "../../ui/field";

interface Part {
  quantity: string;
  day: string;
}
/** What is typed of a line; a line that is not here is as ordered. */
export interface AnswerEntry {
  cannot: boolean;
  parts: Part[];
  price: string;
  instead: string;
  charge: string;
  chargeFor: string;
  remark: string;
}
const ONE: AnswerEntry = {
  cannot: false,
  parts: [{ quantity: "", day: "" }],
  price: "",
  instead: "",
  charge: "",
  chargeFor: "",
  remark: "",
};

/** One line: as ordered, or what is to be different. */
export function LineAnswer({
  line: l,
  found: { document: d },
  words,
  written,
  entry,
  onEntry,
  fault,
}: {
  line: AwaitedLine;
  found: Linked;
  words: AnswerWords;
  written: { locale: string; today: Day };
  entry: AnswerEntry | null;
  onEntry: (entry: AnswerEntry | null) => void;
  fault: (field: string) => string | undefined;
}) {
  const of = d.lines.find((x) => x.line === l.line);
  const unit = unitIn(d, of?.unit ?? "");
  const asks = `${showQuantity(l.open, written.locale)} ${unit}`;
  const put = (part: Partial<AnswerEntry>) => onEntry({ ...(entry ?? ONE), ...part });
  return (
    <li className="border border-rule px-3.5 py-2.5">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h3 className="font-bold">{of?.words ?? l.words}</h3>
        <p className="figure">{asks}</p>
      </div>
      {entry === null && fault("parts") && (
        <p className="text-xs font-semibold text-signal">
          {showDay(of?.required ?? written.today, written.today, written.locale)}: {fault("parts")}
        </p>
      )}
      {entry === null ? (
        <p className="flex items-baseline gap-3 text-ink-2">
          {words.asOrdered}
          <Button look="plain" aria-label={`${words.change}: ${of?.words ?? l.words}`} onClick={() => onEntry(ONE)}>
            {words.change}
          </Button>
        </p>
      ) : (
        <div className="mt-2 flex flex-col gap-3">
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-harbour"
              checked={entry.cannot}
              onChange={(e) => put({ cannot: e.target.checked })}
            />
            {words.cannot}
          </label>
          {!entry.cannot && (
            <>
              <PartFields
                open={l.open}
                unit={unit}
                words={words}
                written={written}
                entry={entry}
                put={put}
                fault={fault}
              />
              <div className="grid gap-3 sm:grid-cols-2">
                {lookOf(d).prices && (
                  <Field label={words.price(d.currency, unit)} problem={fault("price")}>
                    {(a) => (
                      <input
                        {...a}
                        className="entry figure text-right"
                        inputMode="decimal"
                        placeholder={of?.price ? showPrice(of.price, d.currency, written.locale) : undefined}
                        value={entry.price}
                        onChange={(e) => put({ price: e.target.value })}
                      />
                    )}
                  </Field>
                )}
                <Field label={words.instead} problem={fault("instead")}>
                  {(a) => (
                    <input
                      {...a}
                      className="entry"
                      maxLength={120}
                      value={entry.instead}
                      onChange={(e) => put({ instead: e.target.value })}
                    />
                  )}
                </Field>
                {lookOf(d).prices && <ChargeFields d={d} words={words} entry={entry} put={put} fault={fault} />}
              </div>
            </>
          )}
          <Field label={words.lineRemark}>
            {(a) => (
              <input
                {...a}
                className="entry"
                maxLength={300}
                value={entry.remark}
                onChange={(e) => put({ remark: e.target.value })}
              />
            )}
          </Field>
          <div>
            <Button look="plain" onClick={() => onEntry(null)}>
              {words.leave}
            </Button>
          </div>
        </div>
      )}
    </li>
  );
}

/** What of a line comes when, in its parts. */
function PartFields({
  open,
  unit,
  words,
  written,
  entry,
  put,
  fault,
}: {
  open: number;
  unit: string;
  words: AnswerWords;
  written: { locale: string; today: Day };
  entry: AnswerEntry;
  put: (part: Partial<AnswerEntry>) => void;
  fault: (field: string) => string | undefined;
}) {
  const setPart = (i: number, part: Partial<Part>) =>
    put({ parts: entry.parts.map((p, k) => (k === i ? { ...p, ...part } : p)) });
  return (
    <>
      {entry.parts.map((p, i) => (
        <div key={i} className="grid gap-3 sm:grid-cols-2">
          <Field
            label={words.quantity(unit)}
            problem={fault(`parts.${i}.quantity`) ?? (i === 0 ? fault("parts") : undefined)}
          >
            {(a) => (
              <input
                {...a}
                className="entry figure text-right"
                inputMode="decimal"
                placeholder={entry.parts.length === 1 ? showQuantity(open, written.locale) : undefined}
                value={p.quantity}
                onChange={(e) => setPart(i, { quantity: e.target.value })}
              />
            )}
          </Field>
          <DateField
            label={words.day}
            problem={fault(`parts.${i}.day`)}
            value={p.day}
            onDay={(day) => setPart(i, { day })}
            written={written}
          />
        </div>
      ))}
      <div>
        <Button onClick={() => put({ parts: [...entry.parts, { quantity: "", day: "" }] })}>{words.another}</Button>
      </div>
    </>
  );
}

/** A charge that comes with a line: how much, and what for. */
function ChargeFields({
  d,
  words,
  entry,
  put,
  fault,
}: {
  d: Linked["document"];
  words: AnswerWords;
  entry: AnswerEntry;
  put: (part: Partial<AnswerEntry>) => void;
  fault: (field: string) => string | undefined;
}) {
  return (
    <>
      <Field label={words.charge(d.currency)} problem={fault("charge")}>
        {(a) => (
          <input
            {...a}
            className="entry figure text-right"
            inputMode="decimal"
            value={entry.charge ?? ""}
            onChange={(e) => put({ charge: e.target.value })}
          />
        )}
      </Field>
      <Field label={words.chargeFor} problem={fault("chargeFor")}>
        {(a) => (
          <input
            {...a}
            className="entry"
            maxLength={120}
            value={entry.chargeFor ?? ""}
            onChange={(e) => put({ chargeFor: e.target.value })}
          />
        )}
      </Field>
    </>
  );
}
