import { useCallback, useEffect, useRef, useState } from "react";
import { useFetcher } from "react-router";
import type { Day } from "../../../core/calendar/day";
import { showDay, showMoment, showPrice, showQuantity } from "../../../core/numbers/format";
import type { SaidOfLine } from "../../../core/suppliers/answer";
import { type AnswerWords, answerWords } from "../../../exchange/pdf/answer-words";
import { localeIn, lookOf, unitIn } from "../../../exchange/pdf/order-document";
import type { AwaitedLine, Linked } from "../../../server/queries/orders/link";
import type { SaidBefore } from "../../../server/queries/suppliers/answers";
import { Button } from "../../ui/button";
import { DateField } from "../../ui/day-entry";
import { Field, Problems, problemAt } from "../../ui/field";
import { readLocal, writeLocal } from "../../ui/local-draft";

interface Part {
  quantity: string;
  day: string;
}
/** What is typed of a line; a line that is not here is as ordered. */
interface Entry {
  cannot: boolean;
  parts: Part[];
  price: string;
  instead: string;
  charge: string;
  chargeFor: string;
  remark: string;
}
const ONE: Entry = {
  cannot: false,
  parts: [{ quantity: "", day: "" }],
  price: "",
  instead: "",
  charge: "",
  chargeFor: "",
  remark: "",
};

type Answer = { ok: true; value: { wait: number[] } } | { ok: false; problems: { field: string; says: string }[] };

/** A supplier answers an order: all as ordered in one act, or line by line; and sees what became of what they said before. */
export function LinkAnswer({ found, today, zone }: { found: Linked; today: Day; zone: string }) {
  const { document: d, open, said, revision } = found;
  const words = answerWords(lookOf(d).language);
  const locale = localeIn(d);
  const fetcher = useFetcher<Answer>();
  const busy = fetcher.state !== "idle";
  const [differs, setDiffers] = useState(false);
  const { entries, setEntries, forget } = useKeptEntries(`wharf.answer.${found.order}.${revision}`, () =>
    setDiffers(true),
  );
  const [name, setName] = useState("");
  const [remark, setRemark] = useState("");
  const problems = fetcher.data && !fetcher.data.ok ? fetcher.data.problems : undefined;
  const lineProblems = problems?.some((p) => p.field !== "") ?? false;
  const sent = fetcher.data?.ok === true && !busy;
  const answered = fetcher.data;
  // What was sent is theirs to see above: nothing of it is typed any more.
  useEffect(() => {
    if (!answered?.ok) return;
    forget();
    setDiffers(false);
  }, [answered, forget]);
  const send = (all: boolean) => {
    if (busy) return;
    const lines = open.map((l) => ({ line: l.line, ...(entries[l.line] ?? {}) }));
    void fetcher.submit(
      {
        all: all ? "yes" : "no",
        revision: String(revision),
        lines: JSON.stringify(all ? [] : lines),
        by: name,
        remark,
      },
      { method: "post" },
    );
  };
  return (
    <section aria-label={words.title} className="mt-6 border-t-2 border-ink pt-4">
      <h2 className="text-lg font-bold">{words.title}</h2>
      {sent && (
        <p role="status" className="mt-2 border-l-4 border-ink bg-band px-3 py-2 font-semibold">
          {words.thanks}
        </p>
      )}
      <SaidList
        said={said}
        found={found}
        today={today}
        zone={zone}
        busy={busy}
        onAgree={(agree) =>
          void fetcher.submit(
            { agree: String(agree), revision: String(revision), by: name, remark },
            { method: "post" },
          )
        }
      />
      {open.length > 0 && (
        <div className="mt-3 flex flex-col gap-3">
          <Problems problems={problems} only={(p) => p.field === ""} />
          {lineProblems && <Problems problems={[{ field: "", says: words.faults.look }]} />}
          {(differs || lineProblems) && (
            <ol className="flex flex-col gap-3">
              {open.map((l) => (
                <LineAnswer
                  key={l.line}
                  line={l}
                  found={found}
                  words={words}
                  written={{ locale, today }}
                  entry={entries[l.line] ?? null}
                  onEntry={(entry) =>
                    setEntries(({ [l.line]: _, ...rest }) => (entry ? { ...rest, [l.line]: entry } : rest))
                  }
                  fault={(field) => problemAt(problems, `line.${l.line}.${field}`)}
                />
              ))}
            </ol>
          )}
          <div className="grid gap-3 sm:grid-cols-2">
            <Field label={words.name}>
              {(a) => (
                <input {...a} className="entry" maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
              )}
            </Field>
            <Field label={words.remark}>
              {(a) => (
                <input
                  {...a}
                  className="entry"
                  maxLength={1000}
                  value={remark}
                  onChange={(e) => setRemark(e.target.value)}
                />
              )}
            </Field>
          </div>
          <div className="flex flex-wrap gap-2">
            {differs || lineProblems ? (
              <Button look="main" disabled={busy} onClick={() => send(false)}>
                {busy ? words.sending : words.send}
              </Button>
            ) : (
              <>
                <Button look="main" disabled={busy} onClick={() => send(true)}>
                  {busy ? words.sending : words.all}
                </Button>
                <Button onClick={() => setDiffers(true)}>{words.differs}</Button>
              </>
            )}
          </div>
        </div>
      )}
    </section>
  );
}

/** What is typed of the lines, kept by the browser until it is sent; `onRestored` where something was left from before. */
function useKeptEntries(name: string, onRestored: () => void) {
  const [entries, setNow] = useState<Record<number, Entry>>({});
  const restored = useRef(onRestored);
  restored.current = onRestored;
  // The server knows nothing of it: it is there once the page listens.
  useEffect(() => {
    const left = readLocal<Record<number, Entry>>(name);
    if (!left || Object.keys(left).length === 0) return;
    setNow(left);
    restored.current();
  }, [name]);
  const setEntries = (change: (before: Record<number, Entry>) => Record<number, Entry>) =>
    setNow((before) => {
      const next = change(before);
      writeLocal(name, next);
      return next;
    });
  const forget = useCallback(() => {
    writeLocal(name, null);
    setNow({});
  }, [name]);
  return { entries, setEntries, forget };
}

/** One line: as ordered, or what is to be different. */
function LineAnswer({
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
  entry: Entry | null;
  onEntry: (entry: Entry | null) => void;
  fault: (field: string) => string | undefined;
}) {
  const of = d.lines.find((x) => x.line === l.line);
  const unit = unitIn(d, of?.unit ?? "");
  const asks = `${showQuantity(l.open, written.locale)} ${unit}`;
  const put = (part: Partial<Entry>) => onEntry({ ...(entry ?? ONE), ...part });
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
  entry: Entry;
  put: (part: Partial<Entry>) => void;
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
  entry: Entry;
  put: (part: Partial<Entry>) => void;
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

/** What they said before, and what became of it. */
function SaidList({
  said,
  found: { document: d },
  today,
  zone,
  busy,
  onAgree,
}: {
  said: readonly SaidBefore[];
  found: Linked;
  today: Day;
  zone: string;
  busy: boolean;
  onAgree: (answer: number) => void;
}) {
  const words = answerWords(lookOf(d).language);
  const locale = localeIn(d);
  if (said.length === 0) return null;
  const sayings = (s: SaidOfLine) =>
    [
      s.parts?.length === 0
        ? words.cannot
        : s.parts?.map((p) => words.so(showQuantity(p.quantity, locale), showDay(p.day, today, locale))).join(", "),
      s.price !== null && words.at(showPrice(s.price, d.currency, locale)),
      s.instead && words.insteadOf(s.instead),
      s.charge && words.chargeOf(showPrice(s.charge.price, d.currency, locale), s.charge.words),
    ].filter(Boolean);
  return (
    <ul className="mt-2 border border-rule text-sm">
      {said.slice(0, 40).map((s) => {
        const what = sayings(s.said);
        // Only what was said last of a line can still be agreed to.
        const last = said.find((x) => x.line === s.line) === s;
        return (
          <li
            key={s.id}
            className="flex flex-wrap items-baseline gap-x-3 border-b border-rule-2 px-2.5 py-1.5 last:border-0"
          >
            <span>
              {s.name}: <b>{what.length ? what.join(", ") : words.asOrdered}</b>
            </span>
            <span className="text-xs text-ink-3">{words.said(showMoment(s.at, today, locale, zone))}</span>
            <span className="ml-auto font-semibold">
              {words.states[s.state]}
              {s.why && `: ${s.why}`}
            </span>
            {s.counter && (
              <span className="flex w-full flex-wrap items-center gap-3 pb-1">
                <b>{words.propose(sayings(s.counter).join(", "))}</b>
                {s.state === "countered" && last && (
                  <Button disabled={busy} onClick={() => onAgree(s.id)}>
                    {words.agree}
                  </Button>
                )}
              </span>
            )}
          </li>
        );
      })}
    </ul>
  );
}
