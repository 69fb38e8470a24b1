import { useRef } from "react";
import { Link, useActionData, useLoaderData, useSearchParams, useSubmit } from "react-router";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { countOpenAnswers, type OpenAnswer, readOpenAnswers } from "../../../server/queries/suppliers/answers";
import { differenceWords } from "../../parts/said-words";
import { Button } from "../../ui/button";
import { DayRuler } from "../../ui/day-ruler";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { actions, idOf, page } from "../../web/page";
import { OrderPages } from "../orders/order-pages";
import type { AnswerWord } from "./answer-acts";
import { answerActs } from "./answer-acts";
import { AnswerSlip, doesWords } from "./answer-slip";

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

const columnsOf = (w: ReturnType<typeof useWriting>): SheetColumn<OpenAnswer>[] => [
  {
    key: "line",
    head: "Line",
    cell: (a) => <Named name={a.name} code={`line ${a.position} of ${a.orderName} · ${a.supplierName}`} />,
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
      <span className="figure">
        {a.chance?.chance ? w.percent(Math.round(a.chance.chance.basisPoints / 100) * 100) : "–"}
      </span>
    ),
  },
];

/** What suppliers said that is not as it was ordered: each against what stands, to be taken or refused. */
export default function Answers() {
  const { answers, all, mayDecide } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(answer);
  const reason = useRef<HTMLInputElement>(null);
  const [at, setAt] = useAt(answers[0] ? keyOf(answers[0]) : null);
  const here = answers.find((a) => keyOf(a) === at) ?? answers[0] ?? null;
  const [search] = useSearchParams();
  const decide = (what: AnswerWord, of: readonly OpenAnswer[], why = "") => {
    if (busy || !mayDecide || !of[0]) return;
    const { order, version } = of[0];
    const lines = of.map((a) => a.id).join(",");
    void submit(
      { do: what, order: String(order), version: String(version), lines, why, key: key() },
      { method: "post", action: `/answers?${search}`, preventScrollReset: true },
    );
  };
  useKeys(
    mayDecide && here
      ? [
          { key: "y", label: "take it", run: () => decide("take", [here]) },
          { key: "r", label: "refuse it, with a reason", run: () => reason.current?.focus() },
        ]
      : [],
  );
  const refused = answer && !answer.ok ? answer.problems[0]?.says : undefined;
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
            columns={columnsOf(w)}
            rows={answers}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            empty={
              <Empty title="Nothing to decide">
                What a supplier says that differs from the order stands here until you take it or refuse it. What is as
                ordered is taken by itself.
              </Empty>
            }
          />
          {here && <Difference answer={here} />}
        </>
      }
      slip={
        here ? (
          <AnswerSlip
            key={here.id}
            answer={here}
            mayDecide={mayDecide}
            busy={busy}
            reason={reason}
            onRefuse={(why) => decide("refuse", [here], why)}
          />
        ) : (
          <Empty title="No answer chosen" />
        )
      }
      tally={
        <TallyLine
          trouble={refused}
          keys={mayDecide && here ? [["r", "refuse"]] : []}
          act={
            mayDecide &&
            here && (
              <>
                {others.length > 1 && (
                  <Button disabled={busy} onClick={() => decide("take", others)}>
                    Take all {others.length} of {here.orderName}
                  </Button>
                )}
                <Button look="main" hint="Y" disabled={busy} onClick={() => decide("take", [here])}>
                  Take it
                </Button>
              </>
            )
          }
        >
          <span>
            <b>{answers.length}</b> to decide
          </span>
        </TallyLine>
      }
    />
  );
}

/** As it stands and as they say, on one ruler of days. */
function Difference({ answer: a }: { answer: OpenAnswer }) {
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
    </section>
  );
}
