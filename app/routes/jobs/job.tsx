import { useState } from "react";
import { Link, useActionData, useLoaderData, useSubmit } from "react-router";
import { quantityText } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import { chanceOfJob, shownChance } from "../../../core/suppliers/chance";
import { colleagueChoices, openBudgetChoices, storeChoices } from "../../../server/queries/choices";
import { theirsForJob } from "../../../server/queries/consigned/for-job";
import { type DemandLine, readJob } from "../../../server/queries/jobs/jobs";
import { usualPlan } from "../../../server/queries/needs/need";
import { papersAroundJob } from "../../../server/queries/papers/around";
import { WaitFigure, WaitPart } from "../../parts/chance";
import { PapersAround } from "../../parts/papers-around";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { actions, idOf, notFound, page } from "../../web/page";
import type { JobWord } from "./job-acts";
import { jobActs } from "./job-acts";
import { JobForm } from "./job-form";
import { UseTheirs } from "./use-theirs";

export const loader = page("see jobs", ({ db, params, day, hour, person }) => {
  const job = readJob(db, idOf(params.id), usualPlan(day, hour));
  if (!job) throw notFound("There is no such job.");
  return {
    job,
    stores: storeChoices(db),
    people: colleagueChoices(db, 0),
    budgets: openBudgetChoices(db, day),
    around: may(person.roles, "see orders") ? papersAroundJob(db, idOf(params.id)) : [],
    mayKeep: may(person.roles, "keep jobs"),
    mayMove: may(person.roles, "move stock"),
    theirs: may(person.roles, "use at jobs") ? theirsForJob(db, idOf(params.id), day) : [],
    seesOrders: may(person.roles, "see orders"),
  };
});

export const action = actions("see jobs", jobActs, ({ params }) => ({ job: idOf(params.id) }));

/** A job or customer order: what it wants, where that comes from, what it lacks, and what it gives back. */
export default function JobPage() {
  const { job, stores, people, budgets, around, mayKeep, mayMove, theirs, seesOrders } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(job);
  const [editing, setEditing] = useState(false);
  const [shown, setShown] = useState<number | null>(null);
  const { head, lines, outputs } = job;
  const open = head.closed === null;
  const lacking = lines.filter((l) => l.cover && l.cover.lacking + l.cover.late > 0);
  const problem = answer && !answer.ok ? answer.problems[0]?.says : null;
  const send = (body: Record<string, string>) =>
    submit({ ...body, key: `${key()}${body.do}${body.demand ?? ""}` }, { method: "post" });
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8 [&_form>div:last-child]:px-4.5">
          <SheetHead
            title={head.name || head.code}
            sub={
              <>
                <span className="code text-xs">{head.code}</span> {head.kind}
                {head.vessel && `, ${head.vessel}`}
                {!open && ", closed"}
              </>
            }
          >
            {mayKeep && open && (
              <Button look="plain" onClick={() => setEditing((e) => !e)}>
                {editing ? "Back to what it lacks" : "Change the job"}
              </Button>
            )}
          </SheetHead>
          {editing && open ? (
            <JobForm
              key={JSON.stringify([job.lines, job.outputs].map((l) => l.length))}
              job={job}
              stores={stores}
              people={people}
              budgets={budgets}
              send="Keep the job"
            />
          ) : (
            <Demand
              lines={lines}
              mayKeep={mayKeep && open}
              seesOrders={seesOrders}
              busy={busy}
              onChance={setShown}
              onTie={(demand, tie) => send({ do: "tie" satisfies JobWord, demand: String(demand), tie })}
            />
          )}
          {!editing && lines.length === 0 && <p className="px-4.5 py-4 text-ink-2">This job wants nothing.</p>}
        </div>
      }
      slip={
        <>
          <JobChances lines={lines} shown={shown} />
          <PapersAround papers={around} here={`/jobs/${head.id}`} />
          {open && theirs.length > 0 && <UseTheirs theirs={theirs} />}
          <SignsMean />
          {outputs.length > 0 && <GivesBack outputs={outputs} mayTake={mayMove && open} />}
          {mayKeep && (
            <p>
              <button
                type="button"
                className="underline"
                disabled={busy}
                onClick={() => send({ do: "close" satisfies JobWord, closed: open ? "yes" : "no" })}
              >
                {open ? "Close this job: it wants nothing more" : "Open this job again"}
              </button>
            </p>
          )}
        </>
      }
      tally={
        <TallyLine
          trouble={problem}
          act={
            mayKeep &&
            open &&
            !editing && (
              <Button
                look="main"
                disabled={busy || lacking.length === 0}
                onClick={() => send({ do: "tie all" satisfies JobWord })}
              >
                Buy what it lacks for this job
              </Button>
            )
          }
        >
          <span>
            <b>{lines.filter((l) => l.cover).length}</b> lines open
          </span>
          {lacking.length > 0 ? (
            <span className="font-semibold text-signal">{lacking.length} short</span>
          ) : (
            <span className="text-weed">nothing is short</span>
          )}
          <JobChance lines={lines} />
        </TallyLine>
      }
    />
  );
}

function DemandRow({
  line: l,
  mayKeep,
  seesOrders,
  busy,
  onTie,
  onChance,
}: {
  line: DemandLine;
  mayKeep: boolean;
  seesOrders: boolean;
  busy: boolean;
  onTie: (tie: "yes" | "no") => void;
  /** Shows the sum behind its chance. */
  onChance: () => void;
}) {
  const w = useWriting();
  const c = l.cover;
  const ordered = l.orders.reduce((a, o) => a + o.quantity, 0);
  const lacking = c ? c.lacking + c.late : 0;
  const parts = c
    ? ([
        [c.fromShelf, "bg-harbour", "on the shelf"],
        [c.inTime + c.onItsOrder, "hatch", "ordered in time"],
        [c.late, "hatch-late", `comes ${c.lateDay ? w.day(c.lateDay, false) : "late"}`],
        [c.lacking, "", "from nowhere yet"],
      ] as const)
    : [];
  const words = parts.filter(([n]) => n > 0).map(([n, , word]) => `${w.quantity(n)} ${word}`);
  return (
    <tr className="h-10 border-b border-rule-2">
      <td className="pl-4.5 leading-tight max-md:py-1.5">
        <Link className="underline decoration-rule" to={`/items/${l.item}`}>
          {l.name}
        </Link>
        <span className="code block">
          {l.code} · {l.storeName}
        </span>
        <span className="block text-xs text-ink-2 md:hidden">
          <span className={c && l.due < w.today ? "font-semibold text-signal" : ""}>{w.day(l.due)}</span>
          {words.length > 0 ? `: ${words.join(", ")}` : c ? "" : ": all issued"}
        </span>
      </td>
      <td className={`px-2 whitespace-nowrap max-md:hidden ${c && l.due < w.today ? "font-semibold text-signal" : ""}`}>
        {w.day(l.due)}
      </td>
      <td className="figure px-2 text-right whitespace-nowrap">
        {w.quantity(l.quantity)} <span className="font-sans text-xs text-ink-3">{l.unit}</span>
      </td>
      <td className="px-2 max-md:hidden">
        {c ? (
          <>
            <span role="img" aria-label={words.join(", ")} className="flex h-[11px] w-full border border-ink-3">
              {parts
                .filter(([n]) => n > 0)
                .map(([n, look], i) => (
                  <span key={i} className={look} style={{ flexGrow: n }} />
                ))}
            </span>
            <span className="block truncate text-2xs text-ink-3">{words.join(", ")}</span>
          </>
        ) : (
          <span className="text-xs text-ink-3">all issued</span>
        )}
      </td>
      <td className="figure px-2 text-right max-md:hidden">
        <WaitFigure chance={l.chance} of={l.name} onShow={onChance} />
      </td>
      <td className="figure px-2 text-right">
        {lacking > 0 ? (
          <b className="text-signal">{w.quantity(lacking)}</b>
        ) : c ? (
          <span className="text-ink-3">·</span>
        ) : (
          ""
        )}
      </td>
      <td className="px-2 pr-4.5 text-xs whitespace-nowrap max-md:w-20 max-md:whitespace-normal">
        {l.orders.map((o) => (
          <span key={o.id} className="mr-2">
            {seesOrders ? (
              <Link className="underline" to={`/orders/${o.id}`}>
                {o.name}
              </Link>
            ) : (
              o.name
            )}{" "}
            <span className="text-ink-3">{o.received ? "is in" : `due ${w.day(o.due, false)}`}</span>
          </span>
        ))}
        {l.tied > ordered && <span className="mr-2">{w.quantity(l.tied - ordered)} among the needs</span>}
        {mayKeep && c && l.tied < ordered + lacking && (
          <Button look="plain" className="mr-3 min-h-0 text-xs" disabled={busy} onClick={() => onTie("yes")}>
            Buy it for this job
          </Button>
        )}
        {mayKeep && l.tied > ordered && (
          <Button look="plain" className="min-h-0 text-xs" disabled={busy} onClick={() => onTie("no")}>
            Untie
          </Button>
        )}
      </td>
    </tr>
  );
}

/** The sums behind the chances: of the line that was chosen, and of all of the job. */
function JobChances({ lines, shown }: { lines: readonly DemandLine[]; shown: number | null }) {
  const all = chanceOfJob(lines);
  const line = lines.find((l) => l.id === shown);
  return (
    <>
      {line?.chance && <WaitPart title={`${line.name} in time`} chance={line.chance} />}
      {all && all.basisPoints !== null && all.loads.length > 1 && <WaitPart title="Everything in time" chance={all} />}
    </>
  );
}

/** How likely the job has everything on its day, and the line that decides it. */
function JobChance({ lines }: { lines: readonly DemandLine[] }) {
  const w = useWriting();
  const chance = chanceOfJob(lines);
  // What is on no order has no chance: the count of what is short says that.
  if (!chance || lines.some((l) => l.cover && l.cover.lacking > 0)) return null;
  return (
    <span title="Each load that is awaited counts by itself, as independent of the others">
      {chance.basisPoints === null
        ? `no chance known: too few receipts of ${chance.decides.name}`
        : `everything in time: ${w.percent(shownChance(chance.basisPoints))}, least of all ${chance.decides.name}`}
    </span>
  );
}

/** What comes back to stock when the job is done. */
function GivesBack({ outputs, mayTake }: { outputs: Outputs; mayTake: boolean }) {
  const w = useWriting();
  return (
    <SlipPart title="Gives back to stock">
      <ul className="border border-rule bg-sheet">
        {outputs.map((o) => (
          <li key={o.id} className="border-b border-rule-2 px-2.5 py-1.5 text-xs last:border-0">
            <div className="flex justify-between gap-3">
              <Link className="truncate font-semibold underline" to={`/items/${o.item}`}>
                {o.name}
              </Link>
              <span className="figure whitespace-nowrap">
                {w.quantity(o.given)} of {w.quantity(o.quantity)} {o.unit}
              </span>
            </div>
            <p className="text-ink-2">
              to {o.storeName}, {w.day(o.due)}
            </p>
            {mayTake && o.given < o.quantity && (
              <SlipForm<JobWord>
                does="give back"
                fields={{ output: o.id }}
                label="It came back…"
                send="Take into stock"
              >
                <label className="flex items-center gap-2">
                  <span className="sr-only">How much, in {o.unit}</span>
                  <input
                    name="quantity"
                    defaultValue={quantityText(o.quantity - o.given)}
                    inputMode="decimal"
                    maxLength={20}
                    className="entry w-24 text-right font-mono"
                  />
                  {o.unit}
                </label>
              </SlipForm>
            )}
          </li>
        ))}
      </ul>
    </SlipPart>
  );
}

function SignsMean() {
  return (
    <SlipPart title="What the signs mean">
      <ul className="flex flex-col gap-1 text-xs text-ink-2">
        <li className="flex items-center gap-2">
          <span className="inline-block h-[9px] w-[22px] bg-harbour" /> on the shelf
        </li>
        <li className="flex items-center gap-2">
          <span className="hatch inline-block h-[9px] w-[22px] border border-ink-3" /> ordered, in time
        </li>
        <li className="flex items-center gap-2">
          <span className="hatch-late inline-block h-[9px] w-[22px] border border-ink-3" /> ordered, too late
        </li>
        <li className="flex items-center gap-2">
          <span className="inline-block h-[9px] w-[22px] border border-ink-3" /> from nowhere yet
        </li>
      </ul>
    </SlipPart>
  );
}

/** What the job wants, and where each of it comes from. */
function Demand({
  lines,
  mayKeep,
  seesOrders,
  busy,
  onTie,
  onChance,
}: {
  lines: readonly DemandLine[];
  mayKeep: boolean;
  seesOrders: boolean;
  busy: boolean;
  onTie: (demand: number, tie: "yes" | "no") => void;
  onChance: (demand: number) => void;
}) {
  return (
    <table className="w-full border-t-2 border-ink">
      <caption className="sr-only">What the job wants</caption>
      <Heads
        heads={[
          { label: "Item" },
          { label: "Needed", wide: true },
          { label: "Wanted", align: "right" },
          { label: "Where it comes from", width: "w-[26%]", wide: true },
          { label: "In time", align: "right", wide: true },
          { label: "Lacking", align: "right" },
          { label: "Bought for it" },
        ]}
      />
      <tbody>
        {lines.map((l) => (
          <DemandRow
            key={l.id}
            line={l}
            mayKeep={mayKeep}
            seesOrders={seesOrders}
            busy={busy}
            onTie={(tie) => onTie(l.id, tie)}
            onChance={() => onChance(l.id)}
          />
        ))}
      </tbody>
    </table>
  );
}

type Outputs = ReturnType<typeof useLoaderData<typeof loader>>["job"]["outputs"];
