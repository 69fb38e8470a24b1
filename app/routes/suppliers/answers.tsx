import { useEffect, useRef, useState } from "react";
import { Link, useActionData, useLoaderData, useSearchParams, useSubmit } from "react-router";
import { isRecord } from "../../../core/keys";
import { may } from "../../../core/people/roles";
import { shownChance } from "../../../core/suppliers/chance";
import type { WayOut } from "../../../core/suppliers/ways-out";
import { count } from "../../../core/text";
import { countOpenAnswers, type OpenAnswer, readOpenAnswers } from "../../../server/queries/suppliers/answers";
import { differenceWords } from "../../parts/said-words";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { DayRuler } from "../../ui/day-ruler";
import { Field } from "../../ui/field";
import { FileEntry } from "../../ui/file-entry";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { useSlip } from "../../ui/use-slip";
import { actions, idOf, page } from "../../web/page";
import { OrderPages } from "../orders/order-pages";
import type { AnswerWord } from "./answer-acts";
import { answerActs } from "./answer-acts";
import { AnswerSlip, doesWords } from "./answer-slip";
import type { AnswerDoes } from "./does";
import { WhatItDoes } from "./what-it-does";

export const loader = page("see orders", ({ db, day, url, person }) => {
  const of = url.searchParams.get("order");
  return {
    answers: readOpenAnswers(db, day, of === null ? null : idOf(of)),
    all: countOpenAnswers(db),
    mayDecide: may(person.roles, "write orders"),
  };
});

export const action = actions("write orders", answerActs);

const keyOf = (a: OpenAnswer) => String(a.id);

const columnsOf = (w: ReturnType<typeof useWriting>, looked: ReadonlySet<number>): SheetColumn<OpenAnswer>[] => [
  {
    key: "line",
    head: "Line",
    cell: (a) => (
      <Named
        name={a.name}
        code={`${looked.has(a.id) ? "✓ looked at · " : ""}line ${a.position} of ${a.orderName} · ${a.supplierName}`}
      />
    ),
  },
  {
    key: "says",
    keep: 3,
    head: "They say",
    cell: (a) => <b>{a.differences.map((d) => differenceWords(d, w, a.unit)).join(" · ")}</b>,
  },
  {
    key: "does",
    keep: 2,
    head: "What it does",
    cell: (a) => {
      const { says, waits } = doesWords(a, w);
      return <span className={waits ? "font-semibold text-signal" : ""}>{says}</span>;
    },
  },
  {
    key: "chance",
    keep: 1,
    head: "In time",
    align: "right",
    cell: (a) => (
      <span className="figure">{a.chance?.chance ? w.percent(shownChance(a.chance.chance.basisPoints)) : "–"}</span>
    ),
  },
];

/** What is being decided: the row, what taking it does, and the way out that is chosen for it. */
function useDecision(answers: readonly OpenAnswer[], mayDecide: boolean) {
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(answer);
  const [search] = useSearchParams();
  const [at, setAt] = useAt(answers[0] ? keyOf(answers[0]) : null);
  const here = answers.find((a) => keyOf(a) === at) ?? answers[0] ?? null;
  const { slip: does, lost } = useSlip<AnswerDoes>(
    here && `/answers/does?order=${here.order}&answer=${here.id}`,
    answers,
  );
  const looked = useLooked(here && does && !lost ? here.id : null);
  const [chosen, setChosen] = useState<{ of: number; way: string } | null>(null);
  const ways = does?.ways ?? [];
  // Of what is known in its cost and its day the best is proposed: the rest is somebody's own choice.
  const way =
    ways.find((x) => x.key === (chosen?.of === here?.id ? chosen?.way : null)) ??
    ways.find((x) => x.cost !== null) ??
    null;
  const decide = (what: AnswerWord, of: readonly OpenAnswer[], more: Record<string, string> = {}) => {
    if (busy || !mayDecide || !of[0]) return;
    const { order, version } = of[0];
    const lines = of.map((a) => a.id).join(",");
    void submit(
      { do: what, order: String(order), version: String(version), lines, key: key(), ...more },
      { method: "post", action: `/answers?${search}`, preventScrollReset: true },
    );
  };
  const take = () => {
    if (!here) return;
    if (!way || way.key === "wait") decide("take", [here]);
    else decide("take", [here], { way: way.key, cost: way.cost === null ? "" : String(way.cost), day: way.day ?? "" });
  };
  /** All that was looked at, each as it was said: by order, in the version that was looked at. */
  const seen = answers.filter((a) => looked.has(a.id));
  const takeSeen = () => {
    if (busy || !mayDecide || seen.length === 0) return;
    const orders = [...new Set(seen.map((a) => a.order))].map((order) => {
      const of = seen.filter((a) => a.order === order);
      return { order, version: of[0]!.version, lines: of.map((a) => a.id) };
    });
    void submit(
      { do: "take several" satisfies AnswerWord, orders: JSON.stringify(orders), key: key() },
      { method: "post", action: `/answers?${search}`, preventScrollReset: true },
    );
  };
  return {
    answer,
    busy,
    here,
    looked,
    seen,
    takeSeen,
    setAt,
    does,
    lost,
    way,
    choose: (key: string) => here && setChosen({ of: here.id, way: key }),
    decide,
    take,
  };
}

/** The answers of which a person saw what they do. */
function useLooked(here: number | null): ReadonlySet<number> {
  const [looked, setLooked] = useState<ReadonlySet<number>>(new Set());
  useEffect(() => {
    if (here !== null) setLooked((was) => (was.has(here) ? was : new Set([...was, here])));
  }, [here]);
  return looked;
}

/** What the main act says it does. */
const actWords = (way: WayOut | null) =>
  !way || way.key === "wait" ? "Take it" : way.key === "ask" ? "Propose it…" : `Take it, ${way.what}`;

/** What suppliers said that is not as it was ordered: each against what stands, to be taken, refused or countered. */
export default function Answers() {
  const { answers, all, mayDecide } = useLoaderData<typeof loader>();
  const d = useDecision(answers, mayDecide);
  const { here, busy, way } = d;
  const w = useWriting();
  const reason = useRef<HTMLInputElement>(null);
  const propose = useRef<(() => void) | null>(null);
  const act = () => (way?.key === "ask" ? propose.current?.() : d.take());
  useKeys(
    mayDecide && here
      ? [
          { key: "y", label: "take it, by the way out that is chosen", run: act },
          { key: "r", label: "refuse it, with a reason", run: () => reason.current?.focus() },
          { key: "c", label: "counter it with a proposal", run: () => propose.current?.() },
          { key: "a", label: "take all that were looked at, as they were said", run: d.takeSeen },
        ]
      : [],
  );
  const refused = d.answer && !d.answer.ok ? d.answer.problems[0]?.says : undefined;
  const others = here ? answers.filter((a) => a.order === here.order) : [];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Answers"
            sub={all === 0 ? "nothing waits" : `${count(answers.length, "line")} to decide, what costs most first`}
          >
            <OrderPages here="answers" />
          </SheetHead>
          {answers.length < all && (
            <p className="px-4.5 pb-2 text-xs">
              Of one order alone.{" "}
              <Link className="underline" to="/answers">
                Show all {all}
              </Link>
            </p>
          )}
          <Sheet
            label="Answers to decide"
            columns={columnsOf(w, d.looked)}
            rows={answers}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={d.setAt}
            empty={
              <Empty title="Nothing to decide">
                What a supplier says that differs from the order stands here until you take it or refuse it. What is as
                ordered is taken by itself.
              </Empty>
            }
          />
          {here && <Difference answer={here} does={d.does} lost={d.lost} />}
        </>
      }
      slip={
        here ? (
          <>
            <AnswerSlip
              key={here.id}
              answer={here}
              does={d.does}
              way={way}
              onWay={d.choose}
              mayDecide={mayDecide}
              busy={busy}
              reason={reason}
              propose={propose}
              onRefuse={(why) => d.decide("refuse", [here], { why })}
            />
            {mayDecide && <BringFile />}
          </>
        ) : (
          <>
            <Empty title="No answer chosen" />
            {mayDecide && <BringFile />}
          </>
        )
      }
      tally={
        <TallyLine
          trouble={refused}
          keys={
            mayDecide && here
              ? [
                  ["r", "refuse"],
                  ["c", "counter"],
                ]
              : []
          }
          act={
            mayDecide &&
            here && (
              <>
                {d.seen.length > 1 && (
                  <Button hint="A" disabled={busy} onClick={d.takeSeen}>
                    Take the {d.seen.length} looked at
                  </Button>
                )}
                {others.length > 1 && (
                  <Button disabled={busy} onClick={() => d.decide("take", others)}>
                    Take all {others.length} of {here.orderName}
                  </Button>
                )}
                <Button look="main" hint="Y" disabled={busy} onClick={act}>
                  {actWords(way)}
                </Button>
              </>
            )
          }
        >
          <Done answer={d.answer} left={answers.length} />
        </TallyLine>
      }
    />
  );
}

/** An answer that came as a file. */
const BringFile = () => (
  <SlipForm<AnswerWord> does="bring" fields={{}} label="Take in an answer that came as a file…" send="Take it in">
    <Field label="UBL 2.1 OrderResponse or OrderResponseSimple">
      {(a) => <FileEntry {...a} label="The file, XML" name="file" accept=".xml" />}
    </Field>
  </SlipForm>
);

/** What was just done, with what it wrote; else how much is left to decide. */
function Done({ answer, left }: { answer: ReturnType<typeof useActionData<typeof action>>; left: number }) {
  const done: Readonly<Record<string, unknown>> = answer?.ok && isRecord(answer.value) ? answer.value : {};
  return (
    <>
      <span>
        <b>{left}</b> to decide
      </span>
      {typeof done.draft === "number" && (
        <span>
          taken, and{" "}
          <Link className="underline" to={`/orders/${done.draft}`}>
            draft {done.draft}
          </Link>{" "}
          written
        </span>
      )}
      {typeof done.bench === "number" && (
        <span>
          taken, and{" "}
          <Link className="underline" to={`/bench/${done.bench}`}>
            the need laid out
          </Link>
        </span>
      )}
      {typeof done.transfer === "number" && (
        <span>
          taken, and{" "}
          <Link className="underline" to={`/transfers/${done.transfer}`}>
            a transfer
          </Link>{" "}
          planned
        </span>
      )}
    </>
  );
}

/** As it stands and as they say, on one ruler of days, and what taking it does. */
function Difference({ answer: a, does, lost }: { answer: OpenAnswer; does: AnswerDoes | null; lost: boolean }) {
  const standing = a.standing.at(-1)?.day;
  return (
    <section aria-label="The difference" className="overflow-x-auto border-t-2 border-ink px-4.5 py-3">
      <h2 className="mb-1 font-sans text-xs font-semibold tracking-normal text-ink-2">
        Line {a.position}, {a.name}
      </h2>
      <DayRuler
        title="What comes when"
        wanted={a.wanted}
        rows={[
          { label: "as it stands", parts: a.standing },
          {
            label: "as they say",
            parts: a.said.parts ?? a.standing,
            late: (day) => standing !== undefined && day > standing && day > a.wanted,
          },
        ]}
      />
      {does ? (
        <WhatItDoes key={a.id} effects={does.effects} />
      ) : (
        <p className="text-xs text-ink-3">
          {lost ? "What it does could not be worked out." : "Working out what it does…"}
        </p>
      )}
    </section>
  );
}
