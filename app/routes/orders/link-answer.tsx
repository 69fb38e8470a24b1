import { useCallback, useEffect, useRef, useState } from "react";
import { useFetcher } from "react-router";
import type { Day } from "../../../core/calendar/day";
import { showDay, showMoment, showPrice, showQuantity } from "../../../core/numbers/format";
import type { SaidOfLine } from "../../../core/suppliers/answer";
import { answerWords } from "../../../exchange/pdf/answer-words";
import { localeIn, lookOf } from "../../../exchange/pdf/order-document";
import type { Linked } from "../../../server/queries/orders/link";
import type { SaidBefore } from "../../../server/queries/suppliers/answers";
import { Button } from "../../ui/button";
import { Field, Problems, problemAt } from "../../ui/field";
import { readLocal, writeLocal } from "../../ui/local-draft";
import { type AnswerEntry, LineAnswer } from "./link-line";

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
  const [entries, setNow] = useState<Record<number, AnswerEntry>>({});
  const restored = useRef(onRestored);
  restored.current = onRestored;
  // The server knows nothing of it: it is there once the page listens.
  useEffect(() => {
    const left = readLocal<Record<number, AnswerEntry>>(name);
    if (!left || Object.keys(left).length === 0) return;
    setNow(left);
    restored.current();
  }, [name]);
  const setEntries = (change: (before: Record<number, AnswerEntry>) => Record<number, AnswerEntry>) =>
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
