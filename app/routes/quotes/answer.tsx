import { useEffect, useRef, useState } from "react";
import { type ActionFunctionArgs, data, type LoaderFunctionArgs, useFetcher, useLoaderData } from "react-router";
import { addDays, type Day } from "../../../core/calendar/day";
import { showDay, showMoment, showPrice, showQuantity } from "../../../core/numbers/format";
import { unitWord } from "../../../exchange/pdf/paper-words";
import { quoteWords } from "../../../exchange/pdf/quote-words";
import { answerQuote, noteOpened, readAnswer, type Understood } from "../../../server/acts/quotes/answer-quote";
import { patiently } from "../../../server/db/busy";
import { theCompany } from "../../../server/queries/company";
import { closedSays, type Invitation, readInvitation } from "../../../server/queries/quotes/quotes";
import { Button } from "../../ui/button";
import { DateField } from "../../ui/day-entry";
import { Field, Problems, problemAt } from "../../ui/field";
import { house, now, today, zoneOf } from "../../web/house";
import { notFound, readJson } from "../../web/page";
import { strangersAct } from "../../web/strangers";

/** Opened by whoever holds the link, without an account. It shows this request alone. */
export async function loader({ params, context }: LoaderFunctionArgs) {
  const { db } = context.get(house);
  const invitation = readInvitation(db, String(params.link).slice(0, 80), today());
  if (!invitation) throw notFound("This link does not lead to a request of ours.");
  const closed = closedSays(invitation);
  if (!closed) await patiently(() => noteOpened(db, invitation, now().toISOString()));
  const { answered } = invitation.asked;
  const zone = zoneOf(theCompany(db));
  return {
    invitation,
    closed,
    today: today(),
    until: addDays(today(), 30),
    answered: answered && showMoment(answered, today(), invitation.locale, zone),
  };
}

/** An answer to a very long request: lines, and how they were understood. */
const MOST_OF_AN_ANSWER = 2_000_000;

const take = strangersAct(async ({ params, context }, form) => {
  const { db } = context.get(house);
  const link = String(params.link).slice(0, 80);
  const raw = {
    lines: readJson(form.lines),
    validFrom: form.validFrom ?? null,
    validTo: form.validTo ?? null,
    conditions: form.conditions ?? null,
    decline: form.decline === "yes",
    seen: form.seen ?? undefined,
  };
  const answer = await patiently(() =>
    form.do === "read"
      ? readAnswer(db, link, raw, today())
      : answerQuote(db, link, raw, { now: now().toISOString(), day: today() }),
  );
  return data(answer, { status: answer.ok ? 200 : 422 });
}, MOST_OF_AN_ANSWER);

/** `read` says how an answer is understood and keeps nothing; `send` takes it. Without a link of ours nothing is read. */
export async function action(args: ActionFunctionArgs) {
  const { db } = args.context.get(house);
  if (!readInvitation(db, String(args.params.link).slice(0, 80), today()))
    throw notFound("This link does not lead to a request of ours.");
  return take(args);
}

interface Entry {
  price: string;
  from: string;
  leadDays: string;
  note: string;
}
const EMPTY: Entry = { price: "", from: "", leadDays: "", note: "" };

type Answer =
  | { ok: true; value: Understood | { lines: number } }
  | { ok: false; problems: { field: string; says: string }[] };

/** An answer as it is written: typed, understood, sent, and corrected. */
function useAnswering(
  invitation: Invitation,
  { closed, today, until }: { closed: boolean; today: string; until: string },
) {
  const { lines, asked, answers } = invitation;
  const fetcher = useFetcher<Answer>();
  const busy = fetcher.state !== "idle";
  const [entries, setEntries] = useState<Record<number, Entry>>(() => typedBefore(invitation));
  const [terms, setTerms] = useState<TermsEntry>({
    validFrom: answers[0]?.validFrom ?? today,
    validTo: answers[0]?.validTo ?? until,
    conditions: asked.conditions,
  });
  /** The answer that the supplier looks at before it is sent; the one that was changed again is not looked at any more. */
  const [changed, setChanged] = useState<unknown>(null);
  const [correcting, setCorrecting] = useState(false);
  const reply = fetcher.data !== changed ? fetcher.data : undefined;
  const problems = reply && !reply.ok ? reply.problems : undefined;
  const understood = reply?.ok && "validTo" in reply.value ? reply.value : null;
  const sent = reply?.ok && !understood;
  const stands = closed || (asked.answered !== null && !(correcting && !sent));
  const send = (what: "read" | "send", { decline = false, seen }: { decline?: boolean; seen?: Understood } = {}) => {
    if (busy) return;
    void fetcher.submit(
      {
        do: what,
        lines: JSON.stringify(lines.map((l) => ({ line: l.id, ...(entries[l.id] ?? EMPTY) }))),
        ...terms,
        decline: decline ? "yes" : "no",
        ...(seen ? { seen: JSON.stringify(seen) } : {}),
      },
      { method: "post" },
    );
  };
  const correct = () => {
    setChanged(fetcher.data);
    setCorrecting(true);
  };
  return {
    busy,
    entries,
    setEntries,
    terms,
    setTerms,
    reply,
    problems,
    understood,
    /** What was answered stands, and nothing is being written. */
    stands,
    send,
    correct,
    /** Back to what is typed, after it was read. */
    change: () => setChanged(fetcher.data),
  };
}

/** A supplier's own page, in their language: fills prices in, sees how they are understood, sends them, corrects them. */
export default function AnswerQuote() {
  const { invitation, closed, today, until, answered } = useLoaderData<typeof loader>();
  const { head, company, lines, asked, answers, language, locale } = invitation;
  const words = quoteWords(language);
  const { page } = words;
  const { busy, entries, setEntries, terms, setTerms, reply, problems, understood, stands, send, correct, change } =
    useAnswering(invitation, { closed: closed !== null, today, until });
  const sheet = useRef<HTMLElement>(null);
  const faulty = problems !== undefined;
  // The list may be long: what comes next is read from its top, or from the first field that is wrong.
  useEffect(() => {
    if (!reply) return;
    const wrong = faulty ? sheet.current?.querySelector<HTMLElement>("[aria-invalid]") : null;
    if (wrong) wrong.focus();
    else window.scrollTo({ top: 0 });
  }, [reply, faulty]);
  const written = { locale, today };
  const day = (d: string) => showDay(d, today, locale);
  const own = { language, locale, day };
  const of = (id: number): Entry => entries[id] ?? EMPTY;
  const put = (id: number, part: Partial<Entry>) => setEntries((e) => ({ ...e, [id]: { ...of(id), ...part } }));
  const shown = stands ? answers : (understood?.lines ?? null);
  return (
    <main ref={sheet} lang={language} className="mx-auto flex min-h-screen max-w-[920px] flex-col gap-4 px-4.5 py-8">
      <title>{`${words.title} ${head.number}, ${company}`}</title>
      <QuoteHead invitation={invitation} day={day} />
      {(stands || understood) && (
        <p role="status" className="border-l-4 border-ink bg-band px-3 py-2 font-semibold">
          {closed ?? (stands ? (asked.declined ? page.declined : page.stands) : page.understood)}
          {closed && asked.declined && ` ${page.decline}.`}
        </p>
      )}
      <Problems problems={problems} />
      {problems?.every((p) => p.field !== "") && <Problems problems={[{ field: "", says: words.faults.look }]} />}
      <ol className="flex flex-col gap-3">
        {lines.map((l, i) => (
          <QuoteLine
            key={l.id}
            line={l}
            asked={asked}
            written={own}
            figures={shown ? (shown.find((f) => f.line === l.id) ?? null) : undefined}
            entry={of(l.id)}
            onType={(part) => put(l.id, part)}
            fault={(field) => problemAt(problems, `lines.${i}.${field}`)}
          />
        ))}
      </ol>
      {shown && !asked.declined && shown.length > 0 && (
        <HeldUntil page={page} day={day} terms={understood ?? answers[0] ?? terms} />
      )}
      {shown ? (
        (understood?.conditions ?? asked.conditions) && (
          <p className="whitespace-pre-line">{understood?.conditions ?? asked.conditions}</p>
        )
      ) : (
        <>
          <Terms
            page={page}
            problems={problems}
            written={written}
            terms={terms}
            onTerms={(part) => setTerms((now) => ({ ...now, ...part }))}
          />
          <p className="text-xs text-ink-3">{page.leaveEmpty(showPrice(1_250_500_000, asked.currency, locale))}</p>
        </>
      )}
      <AnswerActs
        page={page}
        stands={stands}
        closed={closed !== null}
        understood={understood}
        busy={busy}
        onCorrect={correct}
        onSend={send}
        onChange={change}
      />
      {answered && <p className="text-xs text-ink-3">{page.answered(answered)}</p>}
    </main>
  );
}

/** Who asks, for what, and by when. */
function QuoteHead({
  invitation: { head, company, asked, language },
  day,
}: {
  invitation: Invitation;
  day: (d: string) => string;
}) {
  const words = quoteWords(language);
  const { page } = words;
  return (
    <header className="border-b-2 border-ink pb-3">
      <p className="text-ink-2">{page.asks(company, asked.name)}</p>
      <h1 className="text-xl font-bold">
        {words.title} {head.number}
      </h1>
      <p className="mt-1">
        {page.pleaseBy} <b>{day(head.answerBy)}</b>
        {/* Shortened months end with a point in some languages. */}
        {day(head.answerBy).endsWith(".") ? "" : "."} {page.isContact(head.asker)} {words.pricesIn(asked.currency)}.
      </p>
      {head.note && <p className="mt-1 border-l-4 border-rule pl-3 whitespace-pre-line">{head.note}</p>}
    </header>
  );
}

/** How the supplier reads and writes. */
interface Own {
  language: Invitation["language"];
  locale: string;
  day: (d: string) => string;
}

/** One thing that is asked for: with what was offered, or with the fields to offer it. */
function QuoteLine({
  line: l,
  asked,
  written: { language, locale, day },
  figures,
  entry,
  onType,
  fault,
}: {
  line: Invitation["lines"][number];
  asked: Invitation["asked"];
  written: Own;
  /** What was offered, or is understood to be; null for no price; left out while it is typed. */
  figures:
    | Omit<Invitation["answers"][number], "validFrom" | "validTo">
    | Understood["lines"][number]
    | null
    | undefined;
  entry: Entry;
  onType: (part: Partial<Entry>) => void;
  fault: (field: string) => string | undefined;
}) {
  const words = quoteWords(language);
  const { page } = words;
  const unit = (u: string) => unitWord(language, u);
  const per = unit(l.ask.unit);
  return (
    <li className="border border-rule bg-sheet px-3.5 py-2.5">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-base font-bold">{l.name}</h2>
        <p className="figure">
          {showQuantity(l.ask.quantity, locale)} <span className="font-sans text-ink-2">{per}</span>
        </p>
      </div>
      <p className="text-xs text-ink-2">
        {[
          l.sold?.theirCode && `${words.yours} ${l.sold.theirCode}`,
          `${words.ours} ${l.code}`,
          page.neededAt(day(l.neededOn), l.store),
          l.sold &&
            l.sold.unit !== l.unit &&
            words.oneIs(per, `${showQuantity(l.sold.factor, locale)} ${unit(l.unit)}`),
        ]
          .filter(Boolean)
          .join(" · ")}
      </p>
      {figures !== undefined ? (
        <p className="mt-1.5">
          {figures ? (
            <>
              <b className="figure">{showPrice(figures.price, asked.currency, locale)}</b>{" "}
              {[
                `${asked.currency} ${page.per} ${unit(figures.unit)}`,
                figures.from > 0 && page.fromSo(`${showQuantity(figures.from, locale)} ${unit(figures.unit)}`),
                figures.leadDays !== null && page.inDays(figures.leadDays),
                figures.note,
              ]
                .filter(Boolean)
                .join(", ")}
            </>
          ) : (
            <span className="text-ink-3">{page.noPrice}</span>
          )}
        </p>
      ) : (
        <div className="mt-2 grid grid-cols-[repeat(auto-fit,minmax(150px,1fr))] gap-3">
          {FIELDS.map(({ field, mode, most, look }) => (
            <Field
              key={field}
              label={
                {
                  price: page.price(asked.currency, per),
                  from: page.from(per),
                  leadDays: page.days,
                  note: page.note,
                }[field]
              }
              problem={fault(field)}
              hint={field === "from" ? page.anyQuantity : undefined}
            >
              {(a) => (
                <input
                  {...a}
                  value={entry[field]}
                  onChange={(e) => onType({ [field]: e.target.value })}
                  inputMode={mode}
                  maxLength={most}
                  className={`entry ${look}`}
                />
              )}
            </Field>
          ))}
        </div>
      )}
    </li>
  );
}

interface TermsEntry {
  validFrom: string;
  validTo: string;
  conditions: string;
}

/** For how long the prices hold, and under what conditions. */
function Terms({
  page,
  problems,
  written,
  terms,
  onTerms,
}: {
  page: ReturnType<typeof quoteWords>["page"];
  problems: { field: string; says: string }[] | undefined;
  written: { locale: string; today: Day };
  terms: TermsEntry;
  onTerms: (part: Partial<TermsEntry>) => void;
}) {
  return (
    <div className="grid gap-3 sm:grid-cols-[150px_150px_1fr]">
      <DateField
        label={page.holdFrom}
        problem={problemAt(problems, "validFrom")}
        value={terms.validFrom}
        onDay={(validFrom) => onTerms({ validFrom })}
        written={written}
      />
      <DateField
        label={page.until}
        problem={problemAt(problems, "validTo")}
        value={terms.validTo}
        onDay={(validTo) => onTerms({ validTo })}
        written={written}
      />
      <Field label={page.conditions} problem={problemAt(problems, "conditions")}>
        {(a) => (
          <textarea
            {...a}
            rows={2}
            maxLength={1000}
            className="entry"
            value={terms.conditions}
            onChange={(e) => onTerms({ conditions: e.target.value })}
          />
        )}
      </Field>
    </div>
  );
}

const FIELDS: { field: keyof Entry; mode: "decimal" | "numeric" | "text"; most: number; look: string }[] = [
  { field: "price", mode: "decimal", most: 20, look: "text-right font-mono" },
  { field: "from", mode: "decimal", most: 20, look: "text-right font-mono" },
  { field: "leadDays", mode: "numeric", most: 3, look: "text-right font-mono" },
  { field: "note", mode: "text", most: 300, look: "" },
];

/** What they answered before, as they would type it. */
const typedBefore = ({ answers, asked, locale }: Invitation): Record<number, Entry> =>
  Object.fromEntries(
    answers.map((a) => [
      a.line,
      {
        price: showPrice(a.price, asked.currency, locale),
        from: a.from > 0 ? showQuantity(a.from, locale) : "",
        leadDays: a.leadDays === null ? "" : String(a.leadDays),
        note: a.note,
      },
    ]),
  );

/** What the supplier does next: read it over, send it, change it, or say that they cannot supply. */
function AnswerActs({
  page,
  stands,
  closed,
  understood,
  busy,
  onCorrect,
  onSend,
  onChange,
}: {
  page: ReturnType<typeof quoteWords>["page"];
  stands: boolean;
  closed: boolean;
  understood: Understood | null;
  busy: boolean;
  onCorrect: () => void;
  onSend: ReturnType<typeof useAnswering>["send"];
  onChange: () => void;
}) {
  return (
    <div className="flex flex-wrap gap-3">
      {stands ? (
        !closed && <Button onClick={onCorrect}>{page.correct}</Button>
      ) : understood ? (
        <>
          <Button look="main" disabled={busy} onClick={() => onSend("send", { seen: understood })}>
            {busy ? page.sending : page.send}
          </Button>
          <Button disabled={busy} onClick={onChange}>
            {page.change}
          </Button>
        </>
      ) : (
        <>
          <Button look="main" disabled={busy} onClick={() => onSend("read")}>
            {busy ? page.reading : page.review}
          </Button>
          <Button disabled={busy} onClick={() => onSend("send", { decline: true })}>
            {page.decline}
          </Button>
        </>
      )}
    </div>
  );
}

function HeldUntil({
  page,
  day,
  terms,
}: {
  page: ReturnType<typeof quoteWords>["page"];
  day: (d: string) => string;
  terms: { validFrom: string; validTo: string };
}) {
  return (
    <p>
      {page.holdFrom} <b>{day(terms.validFrom)}</b> {page.until} <b>{day(terms.validTo)}</b>.
    </p>
  );
}
