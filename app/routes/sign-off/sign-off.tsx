import { useActionData, useLoaderData, useNavigate, useSubmit } from "react-router";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { refuse } from "../../../server/desk/desk";
import { sendBack, sign } from "../../../server/desk/signoff/sign";
import type { Decision } from "../../../server/read/decision";
import { readLadder, readWaitingSignatures } from "../../../server/read/signoff";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { Empty, SheetHead, SlipHead, SlipPart, Spread } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { useSlip } from "../../ui/use-slip";
import { now } from "../../web/house";
import { act, page } from "../../web/page";
import { SlipForm } from "../needs/slip-form";
import { DecisionSlip } from "./decision-slip";

export const loader = page("see sign-offs", ({ db, person }) => {
  const signs = may(person.roles, "sign");
  const rows = readWaitingSignatures(db, person.id).sort((a, b) => Number(b.mine) - Number(a.mine));
  const ladders = (["order", "requisition"] as const).map((paper) => {
    const ladder = readLadder(db, paper);
    return {
      paper,
      rungs: (ladder?.rungs ?? []).map((r) => ({
        upTo: r.upTo,
        team: r.team?.name ?? null,
        members: r.team?.members.map((m) => m.name) ?? [],
        hours: r.hours,
      })),
    };
  });
  return { rows, signs, ladders, now: now().toISOString() };
});
export const shouldRevalidate = unlessOnlyLooking;

export const action = act<unknown>("sign", (desk, input) => {
  if (input.do === "sign") return sign(desk, input);
  if (input.do === "send back") return sendBack(desk, input);
  return refuse("", "This cannot be done here.");
});

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);
const hrefOf = (r: Row) => (r.paper === "order" ? `/orders/${r.paperId}` : `/requisitions/${r.paperId}`);

const OTHERS: [string, string][] = [["arrowdown", "move"]];
const MINE: [string, string][] = [...OTHERS, ["enter", "open"]];

/** Papers that wait for a signature, the soonest due first; what is mine stands above. */
export default function SignOff() {
  const { rows, signs, ladders, now: at } = useLoaderData<typeof loader>();
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
  // Nobody signs what they have not seen: the act waits until the slip has been read.
  const mayAct = here?.mine && decision !== null;
  const signHere = () =>
    mayAct &&
    !busy &&
    submit(
      { do: "sign", paper: here.paper, id: here.paperId, version: here.version, key: `${key()}sign` },
      { method: "post", preventScrollReset: true },
    );
  useKeys(signs ? [{ key: "y", label: "sign", run: () => void signHere() }] : []);
  const columns: SheetColumn<Row>[] = [
    {
      key: "paper",
      head: "Paper",
      cell: (r) => <Named name={r.about} code={`${r.paper} ${r.number} · ${r.storeName}`} strong={r.mine} />,
    },
    { key: "writer", head: "From", cell: (r) => r.writerName },
    {
      key: "amount",
      head: `Before tax, ${w.home}`,
      align: "right",
      cell: (r) => <span className="figure">{w.money(r.amount)}</span>,
    },
    { key: "team", head: "Waits for", cell: (r) => (r.mine ? <b>you</b> : r.teamName.toLowerCase()) },
    {
      key: "due",
      head: "Answer by",
      align: "right",
      cell: (r) => (
        <span className={r.due < at ? "font-semibold text-signal" : ""}>
          {r.due < at ? `overdue since ${w.moment(r.due)}` : w.moment(r.due)}
        </span>
      ),
    },
  ];
  const mine = rows.filter((r) => r.mine);
  return (
    <Spread
      sheet={
        <>
          <SheetHead
            title="Sign-off"
            sub={
              signs
                ? `${count(mine.length, "paper waits", "papers wait")} for you`
                : `${count(rows.length, "paper waits", "papers wait")} for others`
            }
          />
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
                {count(here.lines, "line")} from {here.writerName}, for {here.storeName}
                {here.required && `, wanted by ${w.day(here.required)}`}. Asked {w.moment(here.asked)}, {here.hours}{" "}
                working hours to answer.
              </p>
            </SlipHead>
          )}
          {here?.mine && (
            <SlipForm
              key={here.id}
              does="send back"
              fields={{ paper: here.paper, id: here.paperId, version: here.version }}
              label="Send it back…"
              send="Send back"
            >
              <Field label="Why, so that the writer knows what to change">
                {(a) => <textarea {...a} name="reason" rows={3} maxLength={500} className="entry" />}
              </Field>
            </SlipForm>
          )}
          {decision && <DecisionSlip decision={decision} />}
          {ladders
            .filter((l) => !here || l.paper === here.paper)
            .map((l) => (
              <SlipPart key={l.paper} title={l.paper === "order" ? "Who signs orders" : "Who signs requisitions"}>
                <Ladder rungs={l.rungs} amount={here?.paper === l.paper ? here.amount : null} />
              </SlipPart>
            ))}
        </>
      }
      tally={
        <TallyLine
          trouble={answer && !answer.ok ? answer.problems[0]?.says : undefined}
          keys={here?.mine ? MINE : OTHERS}
          act={
            here &&
            (here.mine ? (
              <Button look="main" hint="Y" disabled={busy || !mayAct} onClick={() => void signHere()}>
                Sign {w.amount(here.amount)}
              </Button>
            ) : (
              <Button look="main" hint="⏎" onClick={() => open(here)}>
                Open {here.number}
              </Button>
            ))
          }
        >
          <span>
            <b>{mine.length}</b> for you
          </span>
          <span>
            <b className="figure">{w.amount(rows.reduce((a, r) => a + r.amount, 0))}</b> waiting in all
          </span>
          {rows.some((r) => r.due < at) && (
            <span className="font-semibold text-signal">{rows.filter((r) => r.due < at).length} overdue</span>
          )}
        </TallyLine>
      }
    />
  );
}

/** Rungs rising from the bottom; the amount lights its way up. */
function Ladder({
  rungs,
  amount,
}: {
  rungs: { upTo: number | null; team: string | null; members: string[]; hours: number }[];
  amount: number | null;
}) {
  const w = useWriting();
  if (rungs.length === 0)
    return <p className="font-semibold text-signal">No ladder: nothing of this kind can be submitted.</p>;
  return (
    <ol className="flex flex-col-reverse">
      {rungs.map((r, i) => {
        const below = rungs[i - 1]?.upTo ?? -1;
        const lit = amount !== null && amount > below;
        return (
          <li key={i} className="flex items-end gap-3">
            <span
              aria-hidden="true"
              className={`h-10 w-9 border-x-[3px] ${r.team ? "border-t-[3px]" : "border-t-[3px] border-dashed"} ${lit ? "border-lamp" : "border-ink"}`}
            />
            <span className="pb-1 leading-tight">
              <span className={`block ${lit && r.team ? "font-semibold" : ""}`}>
                {r.team ? `${r.team}: ${r.members.join(", ")}` : "nobody"}
              </span>
              <span className="block text-xs text-ink-3">
                {r.upTo === null ? "above" : `to ${w.amount(r.upTo)}`}
                {r.team && `, ${r.hours} h`}
              </span>
            </span>
          </li>
        );
      })}
    </ol>
  );
}
