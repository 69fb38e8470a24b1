import { useState } from "react";
import {
  type ActionFunctionArgs,
  data,
  type LoaderFunctionArgs,
  useActionData,
  useLoaderData,
  useSubmit,
} from "react-router";
import { addDays } from "../../../core/calendar/day";
import { showDay, showMoment, showPrice, showQuantity } from "../../../core/numbers/format";
import { unitWords } from "../../../core/text";
import { answerQuote, noteOpened } from "../../../server/desk/quotes/answer-quote";
import { closedSays, readInvitation } from "../../../server/read/quotes/quotes";
import { Button } from "../../ui/button";
import { Field, Problems, problemAt } from "../../ui/field";
import { useBusy } from "../../ui/use-busy";
import { house, now, today } from "../../web/house";
import { notFound, readJson } from "../../web/page";

/** Opened by whoever holds the link, without an account. It shows this request alone. */
export function loader({ params, context }: LoaderFunctionArgs) {
  const { db } = context.get(house);
  const invitation = readInvitation(db, String(params.link).slice(0, 80), today());
  if (!invitation) throw notFound("This link does not lead to a request of ours.");
  const closed = closedSays(invitation);
  if (!closed) noteOpened(db, invitation, now().toISOString());
  return { invitation, closed, today: today(), until: addDays(today(), 30) };
}

export async function action({ request, params, context }: ActionFunctionArgs) {
  const { db } = context.get(house);
  const form = await request.formData();
  const answer = answerQuote(
    db,
    String(params.link).slice(0, 80),
    {
      lines: readJson(form.get("lines")),
      validFrom: form.get("validFrom"),
      validTo: form.get("validTo"),
      conditions: form.get("conditions"),
      decline: form.get("decline") === "yes",
    },
    { now: now().toISOString(), day: today() },
  );
  return data(answer, { status: answer.ok ? 200 : 422 });
}

interface Entry {
  price: string;
  from: string;
  leadDays: string;
  note: string;
}

/** A supplier's own page: fills prices, dates and conditions in, once. */
export default function AnswerQuote() {
  const { invitation, closed, today, until } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const { head, company, lines, asked, answers } = invitation;
  const submit = useSubmit();
  const busy = useBusy();
  const [entries, setEntries] = useState<Record<number, Entry>>({});
  const [validFrom, setValidFrom] = useState<string>(today);
  const [validTo, setValidTo] = useState<string>(until);
  const [conditions, setConditions] = useState("");
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const day = (d: string) => showDay(d, today);
  const of = (id: number): Entry => entries[id] ?? { price: "", from: "", leadDays: "", note: "" };
  const put = (id: number, part: Partial<Entry>) => setEntries((e) => ({ ...e, [id]: { ...of(id), ...part } }));
  const send = (decline: boolean) => {
    if (busy) return;
    submit(
      {
        lines: JSON.stringify(lines.map((l) => ({ line: l.id, ...of(l.id) }))),
        validFrom,
        validTo,
        conditions,
        decline: decline ? "yes" : "no",
      },
      { method: "post" },
    );
  };
  const fault = (i: number, field: string) => problemAt(problems, `lines.${i}.${field}`);
  return (
    <main className="mx-auto flex min-h-screen max-w-[920px] flex-col gap-4 px-4.5 py-8">
      <title>{`Request ${head.number} from ${company}`}</title>
      <header className="border-b-2 border-ink pb-3">
        <p className="text-ink-2">
          {company} asks {asked.name}
        </p>
        <h1 className="text-xl font-bold">Request for quotation {head.number}</h1>
        <p className="mt-1">
          Please answer by <b>{day(head.answerBy)}</b>. {head.asker} is your contact.
        </p>
        {head.note && <p className="mt-1 border-l-4 border-rule pl-3">{head.note}</p>}
      </header>
      {closed && (
        <p role="status" className="border-l-4 border-ink bg-band px-3 py-2 font-semibold">
          {closed}
        </p>
      )}
      <Problems problems={problems} />
      {problems?.every((p) => p.field !== "") && (
        <Problems problems={[{ field: "", says: "Some fields need another look; they are marked." }]} />
      )}
      <ol className="flex flex-col gap-3">
        {lines.map((l, i) => {
          const given = answers.find((a) => a.line === l.id);
          const unit = l.sold?.unit ?? l.unit;
          return (
            <li key={l.id} className="border border-rule bg-sheet px-3.5 py-2.5">
              <div className="flex flex-wrap items-baseline justify-between gap-x-4">
                <h2 className="text-base font-bold">{l.name}</h2>
                <p className="figure">
                  {showQuantity(l.quantity)} <span className="font-sans text-ink-2">{l.unit}</span>
                </p>
              </div>
              <p className="text-xs text-ink-2">
                {l.sold?.theirCode && `your code ${l.sold.theirCode} · `}our code {l.code} · needed {day(l.neededOn)} at{" "}
                {l.store}
                {l.sold && l.sold.unit !== l.unit && ` · one ${unit} is ${showQuantity(l.sold.factor)} ${l.unit}`}
              </p>
              {closed ? (
                <p className="mt-1.5">
                  {given ? (
                    <>
                      <b className="figure">{showPrice(given.price, asked.currency)}</b> {asked.currency} per{" "}
                      {given.unit}
                      {given.from > 0 && `, from ${showQuantity(given.from)}`}
                      {given.leadDays !== null && `, in ${given.leadDays} days`}, until {day(given.validTo)}
                      {given.note && `. ${given.note}`}
                    </>
                  ) : (
                    <span className="text-ink-3">no price</span>
                  )}
                </p>
              ) : (
                <div className="mt-2 grid grid-cols-[repeat(auto-fit,minmax(150px,1fr))] gap-3">
                  <Field label={`Price in ${asked.currency} per ${unit}`} problem={fault(i, "price")}>
                    {(a) => (
                      <input
                        {...a}
                        value={of(l.id).price}
                        onChange={(e) => put(l.id, { price: e.target.value })}
                        inputMode="decimal"
                        maxLength={20}
                        className="entry text-right font-mono"
                      />
                    )}
                  </Field>
                  <Field
                    label={`From so many ${unitWords(20_000, unit)}`}
                    problem={fault(i, "from")}
                    hint="empty: any quantity"
                  >
                    {(a) => (
                      <input
                        {...a}
                        value={of(l.id).from}
                        onChange={(e) => put(l.id, { from: e.target.value })}
                        inputMode="decimal"
                        maxLength={20}
                        className="entry text-right font-mono"
                      />
                    )}
                  </Field>
                  <Field label="Days to deliver" problem={fault(i, "leadDays")}>
                    {(a) => (
                      <input
                        {...a}
                        value={of(l.id).leadDays}
                        onChange={(e) => put(l.id, { leadDays: e.target.value })}
                        inputMode="numeric"
                        maxLength={3}
                        className="entry text-right font-mono"
                      />
                    )}
                  </Field>
                  <Field label="A note" problem={fault(i, "note")}>
                    {(a) => (
                      <input
                        {...a}
                        value={of(l.id).note}
                        onChange={(e) => put(l.id, { note: e.target.value })}
                        maxLength={300}
                        className="entry"
                      />
                    )}
                  </Field>
                </div>
              )}
            </li>
          );
        })}
      </ol>
      {closed ? (
        asked.conditions && <p>Conditions: {asked.conditions}</p>
      ) : (
        <>
          <div className="grid gap-3 sm:grid-cols-[150px_150px_1fr]">
            <Field label="Prices hold from" problem={problemAt(problems, "validFrom")}>
              {(a) => (
                <input
                  {...a}
                  type="date"
                  className="entry"
                  value={validFrom}
                  onChange={(e) => setValidFrom(e.target.value)}
                />
              )}
            </Field>
            <Field label="until" problem={problemAt(problems, "validTo")}>
              {(a) => (
                <input
                  {...a}
                  type="date"
                  className="entry"
                  value={validTo}
                  onChange={(e) => setValidTo(e.target.value)}
                />
              )}
            </Field>
            <Field label="Conditions, if any" problem={problemAt(problems, "conditions")}>
              {(a) => (
                <textarea
                  {...a}
                  rows={2}
                  maxLength={1000}
                  className="entry"
                  value={conditions}
                  onChange={(e) => setConditions(e.target.value)}
                />
              )}
            </Field>
          </div>
          <p className="text-xs text-ink-3">
            Leave a price empty where you cannot supply the line. You can answer once.
          </p>
          <div className="flex flex-wrap gap-3">
            <Button look="main" disabled={busy} onClick={() => send(false)}>
              {busy ? "Sending…" : "Send the prices"}
            </Button>
            <Button disabled={busy} onClick={() => send(true)}>
              We cannot supply any of this
            </Button>
          </div>
        </>
      )}
      {asked.answered && <p className="text-xs text-ink-3">Answered {showMoment(asked.answered, today)}.</p>}
    </main>
  );
}
