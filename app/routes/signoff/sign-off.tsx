import { useEffect, useState } from "react";
import { Link, useActionData, useLoaderData, useNavigate, useSubmit } from "react-router";
import { may } from "../../../core/people/roles";
import { paperHref } from "../../../core/signoff/papers";
import { count } from "../../../core/text";
import type { Decision } from "../../../server/queries/signoff/decision";
import { signerChoices } from "../../../server/queries/signoff/staff";
import { readWaitingSignatures } from "../../../server/queries/signoff/waiting";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { useSlip } from "../../ui/use-slip";
import { now } from "../../web/house";
import { actions, page } from "../../web/page";
import type { SigningWord } from "./acts";
import { signingActs } from "./acts";
import { DecisionSlip } from "./decision-slip";
import { SignActs } from "./sign-acts";

export const loader = page("see sign-offs", ({ db, person, day }) => ({
  rows: readWaitingSignatures(db, person.id, day).sort((a, b) => Number(b.mine) - Number(a.mine)),
  signs: may(person.roles, "sign"),
  others: signerChoices(db, day, [person.id]),
  opensLadders: may(person.roles, "see ladders"),
  now: now().toISOString(),
}));
export const shouldRevalidate = unlessOnlyLooking;

export const action = actions("see sign-offs", signingActs);

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);
const hrefOf = (r: Row) => paperHref(r.paper, r.paperId);

const OTHERS: [string, string][] = [["arrowdown", "move"]];
const MINE: [string, string][] = [...OTHERS, ["enter", "open"]];

/** Papers that wait for a signature, the soonest due first; what is mine stands above. */
export default function SignOff() {
  const { rows, signs, others, opensLadders, now: at } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [chosen, setChosen] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const here = rows.find((r) => keyOf(r) === chosen) ?? rows[0] ?? null;
  const open = (r: Row) => navigate(hrefOf(r));
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(here ? `${keyOf(here)} ${here.version}` : "");
  const { slip: decision } = useSlip<Decision>(here && `/sign-off/${here.paper}/${here.paperId}/slip`, rows);
  // Papers whose slip was read, in the version that was read: those may be signed together.
  const [looked, setLooked] = useState<Readonly<Record<string, number>>>({});
  useEffect(() => {
    if (here && decision) setLooked((l) => ({ ...l, [keyOf(here)]: here.version }));
  }, [here, decision]);
  const together = rows.filter((r) => r.mine && looked[keyOf(r)] === r.version);
  // Nobody signs what they have not seen: the act waits until the slip has been read.
  const mayAct = here?.mine && decision !== null;
  const signHere = () =>
    mayAct &&
    !busy &&
    submit(
      {
        do: "sign" satisfies SigningWord,
        paper: here.paper,
        id: here.paperId,
        version: here.version,
        key: `${key()}sign`,
      },
      { method: "post", preventScrollReset: true },
    );
  const signTogether = () => {
    if (busy || together.length < 2) return;
    const papers = together.map((r) => ({ paper: r.paper, id: r.paperId, version: r.version }));
    void submit(
      { do: "sign many" satisfies SigningWord, papers, key: `${key()}many` },
      { method: "post", encType: "application/json", preventScrollReset: true },
    );
  };
  useKeys(
    signs
      ? [
          { key: "y", label: "sign", run: () => void signHere() },
          { key: "a", label: "sign all that were looked at", run: signTogether },
        ]
      : [],
  );
  const columns = columnsIn(w, at, (r) => looked[keyOf(r)] === r.version);
  const mine = rows.filter((r) => r.mine);
  // Somebody for whom nothing ever waits looks at what waits for others.
  const signsMost = signs && rows.every((r) => r.mine);
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Sign-off"
            sub={
              mine.length || signsMost
                ? `${count(mine.length, "paper waits", "papers wait")} for you`
                : `${count(rows.length, "paper waits", "papers wait")} for others`
            }
          >
            <a href="/sign-off.csv" className="underline">
              Decisions of a month, CSV
            </a>
            {opensLadders && (
              <Link to="/ladders" className="underline">
                Spend ladders
              </Link>
            )}
          </SheetHead>
          <Sheet
            label="Papers that wait for a signature"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setChosen}
            onOpen={open}
            empty={
              <Empty title="Nothing waits for a signature">
                Requisitions and orders above the first limit of their ladder stand here until everybody has signed.
              </Empty>
            }
          />
        </>
      }
      slip={
        <>
          {here && (
            <SlipHead over={`${here.paper} ${here.number}`} title={here.about}>
              <p className="mt-1 text-ink-2">
                {count(here.lines, "line")} from {here.writerName}
                {here.storeName && `, for ${here.storeName}`}
                {here.required && `, wanted by ${w.day(here.required)}`}. Asked {w.moment(here.asked)}, {here.hours}{" "}
                working hours to answer.
              </p>
            </SlipHead>
          )}
          {here?.mine && (
            <SignActs
              key={here.id}
              waiting={{ paper: here.paper, id: here.paperId, version: here.version }}
              others={others.filter((p) => p.id !== here.writer)}
            />
          )}
          {decision && <DecisionSlip decision={decision} />}
        </>
      }
      tally={
        <SignTally
          rows={rows}
          at={at}
          here={here}
          trouble={answer && !answer.ok ? answer.problems[0]?.says : undefined}
          together={together.length}
          busy={busy}
          onSign={mayAct ? () => void signHere() : null}
          onSignAll={signTogether}
          onOpen={open}
        />
      }
    />
  );
}

/** The columns of what waits; `looked` says which were looked at. */
const columnsIn = (w: ReturnType<typeof useWriting>, at: string, looked: (row: Row) => boolean): SheetColumn<Row>[] => [
  {
    key: "paper",
    head: "Paper",
    cell: (r) => (
      <Named
        name={r.about}
        code={[`${r.kind} ${r.number}`, r.storeName, r.open && count(r.open, "open question")]
          .filter(Boolean)
          .join(" · ")}
        strong={r.mine}
      />
    ),
  },
  { key: "writer", head: "From", keep: -1, cell: (r) => r.writerName },
  {
    key: "amount",
    keep: 2,
    head: `Before tax, ${w.home}`,
    align: "right",
    cell: (r) => <span className="figure">{w.money(r.amount)}</span>,
  },
  {
    key: "team",
    head: "Waits for",
    keep: -1,
    cell: (r) => <WaitsFor row={r} looked={looked(r)} />,
  },
  {
    key: "due",
    keep: 3,
    head: "Answer by",
    align: "right",
    cell: (r) => (
      <span className={r.due < at ? "font-semibold text-signal" : ""}>
        {r.due < at ? (
          <>
            overdue<span className="max-md:hidden"> since {w.moment(r.due)}</span>
          </>
        ) : (
          w.moment(r.due)
        )}
      </span>
    ),
  },
];

function WaitsFor({ row: r, looked }: { row: Row; looked: boolean }) {
  if (!r.mine) return r.called.replace(/^the /, "");
  const notes = [r.climbed && "it climbed", looked && "looked at"].filter(Boolean).join(", ");
  return (
    <span className="block leading-tight">
      <b>you</b>
      {r.forWhom && <span className="text-ink-2"> for {r.forWhom}</span>}
      {notes && <span className="block text-xs text-ink-3">{notes}</span>}
    </span>
  );
}

function SignTally({
  rows,
  at,
  here,
  trouble,
  together,
  busy,
  onSign,
  onSignAll,
  onOpen,
}: {
  rows: readonly Row[] /** The moment. */;
  at: string;
  here: Row | null;
  trouble: string | undefined /** So many were looked at and may be signed at once. */;
  together: number;
  busy: boolean;
  onSign: (() => void) | null;
  onSignAll: () => void;
  onOpen: (row: Row) => void;
}) {
  const w = useWriting();
  return (
    <TallyLine
      trouble={trouble}
      keys={here?.mine ? MINE : OTHERS}
      act={
        here &&
        (here.mine ? (
          <>
            {together > 1 && (
              <Button hint="A" disabled={busy} onClick={onSignAll}>
                Sign all {together} looked at
              </Button>
            )}
            <Button look="main" hint="Y" disabled={busy || !onSign} onClick={onSign ?? undefined}>
              Sign {w.amount(here.amount)}
            </Button>
          </>
        ) : (
          <Button look="main" hint="⏎" onClick={() => onOpen(here)}>
            Open {here.number}
          </Button>
        ))
      }
    >
      <span>
        <b>{rows.filter((r) => r.mine).length}</b> for you
      </span>
      <span>
        <b className="figure">{w.amount(rows.reduce((a, r) => a + r.amount, 0))}</b> waiting in all
      </span>
      {rows.some((r) => r.due < at) && (
        <span className="font-semibold text-signal">{rows.filter((r) => r.due < at).length} overdue</span>
      )}
    </TallyLine>
  );
}
