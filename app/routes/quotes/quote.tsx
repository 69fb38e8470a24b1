import { useState } from "react";
import { Link, useActionData, useLoaderData, useSubmit } from "react-router";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { acceptAnswers, endQuote } from "../../../server/acts/quotes/accept-quote";
import { type QuoteAnswer, type QuoteAsked, readQuote } from "../../../server/queries/quotes/quotes";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { Problems } from "../../ui/field";
import { flipped } from "../../ui/flipped";
import { SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named } from "../../ui/ruled-sheet";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { actions, idOf, notFound, type PageActs, page, readJson } from "../../web/page";

export const loader = page("see benches", ({ db, params, day, person }) => {
  const sheet = readQuote(db, idOf(params.id), day);
  if (!sheet) throw notFound("There is no such request.");
  return { sheet, mayWrite: may(person.roles, "write orders"), stop: "Bench" };
});

const quoteActs = {
  accept: (desk, { quote, version, answers }) => acceptAnswers(desk, { quote, version, answers: readJson(answers) }),
  end: (desk, { quote, asked }) => endQuote(desk, { quote, asked: asked || undefined }),
} satisfies PageActs;
type QuoteWord = keyof typeof quoteActs;
export const action = actions("write orders", quoteActs, ({ params }) => ({ quote: idOf(params.id) }));

type Sheet = ReturnType<typeof useLoaderData<typeof loader>>["sheet"];

/** The answers of all suppliers side by side: line by line, what each would cost, from when, until when. */
export default function Quote() {
  const { sheet, mayWrite } = useLoaderData<typeof loader>();
  const answered = useActionData<typeof action>();
  const { head, lines, asked, answers } = sheet;
  const w = useWriting();
  const busy = useBusy();
  const submit = useSubmit();
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set());
  const key = useSubmissionKey(head.version);
  const problems = answered && !answered.ok ? answered.problems : undefined;
  const open = [...ticked].filter((id) => answers.some((a) => a.id === id && !a.accepted));
  const accept = () => {
    if (busy || open.length === 0) return;
    void submit(
      { do: "accept" satisfies QuoteWord, version: head.version, answers: JSON.stringify(open), key: `${key()}accept` },
      { method: "post" },
    );
    setTicked(new Set());
  };
  const waiting = asked.filter((a) => a.answered === null && a.ended === null && head.ended === null);
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title={`Request ${head.number}`}
            sub={`${count(lines.length, "line")} asked for by ${head.asker}, answers by ${w.day(head.answerBy)}`}
          >
            <span className="text-ink-2">{w.home} per stock unit</span>
            {head.bench && (
              <Link className="underline" to={`/bench/${head.bench}`}>
                To the bench
              </Link>
            )}
          </SheetHead>
          <div className="px-4.5">
            <Problems problems={problems} only={() => true} />
          </div>
          <div className="min-h-0 flex-1 overflow-auto">
            <AnswersSideBySide
              sheet={sheet}
              ticked={ticked}
              mayTick={mayWrite}
              onTick={(id) => setTicked((was) => flipped(was, id))}
            />
          </div>
        </>
      }
      slip={
        <>
          <SlipHead
            over={w.moment(head.at)}
            title={head.ended ? "Ended" : waiting.length ? "Waiting for answers" : "All have answered"}
          >
            {head.note && <p className="mt-1 text-ink-2">{head.note}</p>}
          </SlipHead>
          <AskedSuppliers sheet={sheet} mayEnd={mayWrite} />
          {mayWrite && !head.ended && (
            <SlipForm<QuoteWord> does="end" fields={{}} label="End the whole request…" send="End it">
              <p>Nobody can answer any more. What was accepted stays.</p>
            </SlipForm>
          )}
          <p className="text-xs text-ink-3">
            An accepted answer is a price of that supplier from its first to its last day, before the price list; the
            plans of the bench know it at once.
          </p>
        </>
      }
      tally={
        <TallyLine
          act={
            mayWrite && (
              <Button look="main" disabled={busy || open.length === 0} onClick={accept}>
                Accept {count(open.length, "price")}
              </Button>
            )
          }
        >
          <span>
            <b>{asked.filter((a) => a.answered).length}</b> of {asked.length} answered
          </span>
          <span>
            <b>{answers.filter((a) => a.accepted).length}</b> accepted
          </span>
        </TallyLine>
      }
    />
  );
}

/** Lines down, suppliers across: what each would cost, the best of a line marked. */
function AnswersSideBySide({
  sheet: { head, lines, asked, answers },
  ticked,
  mayTick,
  onTick,
}: {
  sheet: Sheet;
  ticked: ReadonlySet<number>;
  mayTick: boolean;
  onTick: (id: number) => void;
}) {
  const w = useWriting();
  const at = (asking: number, line: number) => answers.find((a) => a.asked === asking && a.line === line) ?? null;
  const best = (line: number) => {
    const prices = answers.filter((a) => a.line === line && a.perStockUnit !== null).map((a) => a.perStockUnit!);
    return prices.length ? Math.min(...prices) : null;
  };
  return (
    <table className="w-full border-separate border-spacing-0" style={{ minWidth: 320 + asked.length * 150 }}>
      <caption className="sr-only">Answers side by side</caption>
      <thead>
        <tr>
          <th scope="col" className={`${HEAD} pl-4.5 text-left`}>
            Line
          </th>
          <th scope="col" className={`${HEAD} text-right`}>
            Quantity
          </th>
          {asked.map((a) => (
            <th key={a.id} scope="col" style={{ width: 176 }} className={`${HEAD} text-right last:pr-4.5`}>
              <span className="block text-xs text-ink">{a.name}</span>
              <span className={`block font-normal ${a.late ? "font-semibold text-signal" : ""}`}>
                {stateOf(a, w, head.ended !== null)}
              </span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {lines.map((l) => (
          <tr key={l.id}>
            <th scope="row" className={`${CELL} pl-4.5 text-left font-normal`}>
              <Named name={l.name} code={`${l.code} · ${l.store} · needed ${w.day(l.neededOn, false)}`} />
            </th>
            <td className={`${CELL} figure text-right whitespace-nowrap`}>
              {w.quantity(l.quantity)} <span className="font-sans text-xs text-ink-3">{l.unit}</span>
            </td>
            {asked.map((a) => (
              <td key={a.id} className={`${CELL} text-right last:pr-4.5`}>
                <Answer
                  answer={at(a.id, l.id)}
                  asked={a}
                  name={l.name}
                  best={best(l.id)}
                  ticked={ticked}
                  mayTick={mayTick}
                  onTick={onTick}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function AskedSuppliers({ sheet: { head, asked }, mayEnd }: { sheet: Sheet; mayEnd: boolean }) {
  const w = useWriting();
  return (
    <SlipPart title="Suppliers">
      <ul className="border border-rule bg-sheet">
        {asked.map((a) => (
          <li key={a.id} className="border-b border-rule-2 px-2.5 py-1.5 last:border-0">
            <div className="flex justify-between gap-2">
              <b>{a.name}</b>
              <span className={a.late ? "font-semibold text-signal" : "text-ink-2"}>
                {stateOf(a, w, head.ended !== null)}
              </span>
            </div>
            {a.conditions && <p className="text-ink-2">{a.conditions}</p>}
            {mayEnd && !a.answered && !a.ended && !head.ended && (
              <SlipForm<QuoteWord> does="end" fields={{ asked: a.id }} label="End their link…" send="End it">
                <p>They can answer no more. Nothing else changes.</p>
              </SlipForm>
            )}
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}

const HEAD =
  "sticky top-0 z-10 bg-sheet border-y border-t-rule border-b-2 border-b-ink px-2 py-[5px] align-bottom text-2xs text-ink-3";
const CELL = "border-b border-rule-2 px-2 py-1.5";

function stateOf(a: QuoteAsked, w: ReturnType<typeof useWriting>, over: boolean): string {
  if (a.declined) return "cannot supply";
  if (a.answered) return `answered ${w.day(a.answered, false)}`;
  if (a.ended || over) return "ended without an answer";
  if (a.late) return "late";
  return a.opened ? `looked ${w.day(a.opened, false)}` : "not opened yet";
}

function Answer({
  answer: a,
  asked,
  name,
  best,
  ticked,
  mayTick,
  onTick,
}: {
  answer: QuoteAnswer | null;
  asked: QuoteAsked;
  name: string;
  best: number | null;
  ticked: ReadonlySet<number>;
  mayTick: boolean;
  onTick: (id: number) => void;
}) {
  const w = useWriting();
  if (!a) return <span className="text-ink-3">·</span>;
  const ended = a.validTo < w.today;
  const details = [
    `${w.price(a.price, asked.currency)} ${asked.currency}/${a.unit}`,
    a.from > 0 ? `from ${w.quantity(a.from)}` : "",
    a.leadDays === null ? "" : `in ${count(a.leadDays, "day")}`,
    `until ${w.day(a.validTo, false)}`,
  ].filter(Boolean);
  return (
    <div className="flex items-start justify-end gap-2">
      <span>
        <span
          className={`figure block ${a.perStockUnit !== null && a.perStockUnit === best ? "font-semibold text-weed" : ""}`}
        >
          {a.perStockUnit === null ? `no ${asked.currency} rate` : w.price(a.perStockUnit)}
        </span>
        <span className="block text-2xs text-ink-3">{details.join(", ")}</span>
        {a.note && <span className="block text-2xs">{a.note}</span>}
        {a.accepted && <b className="block text-2xs">accepted by {a.acceptedBy}</b>}
        {!a.accepted && ended && <b className="block text-2xs text-signal">has ended</b>}
      </span>
      {mayTick && (
        <input
          type="checkbox"
          aria-label={`Accept ${asked.name} for ${name}`}
          checked={a.accepted !== null || ticked.has(a.id)}
          disabled={a.accepted !== null || ended}
          onChange={() => onTick(a.id)}
          className="mt-0.5 size-[15px] accent-harbour"
        />
      )}
    </div>
  );
}
