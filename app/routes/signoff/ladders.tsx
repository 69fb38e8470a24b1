import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useActionData, useLoaderData, useNavigation, useSubmit } from "react-router";
import { addDays, type Day, weekday } from "../../../core/calendar/day";
import { isRecord } from "../../../core/keys";
import { exponent } from "../../../core/numbers/money";
import { may } from "../../../core/people/roles";
import { faultsOf, knownOf } from "../../../core/signoff/faults";
import { type Ladder, ladderFor, type Rules } from "../../../core/signoff/rulebook";
import { count } from "../../../core/text";
import { readRuleChoices } from "../../../server/queries/signoff/choices";
import { readRulebookDraft, readRulebooks, rulebookOn } from "../../../server/queries/signoff/rulebooks";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { KeepingNote } from "../../ui/keeping-note";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useAddress } from "../../ui/use-address";
import { useBusy } from "../../ui/use-busy";
import { actions, page, wholeOf } from "../../web/page";
import { AllowanceFields } from "./allowance";
import { LadderChart } from "./ladder-chart";
import { LadderForm } from "./ladder-form";
import { changedRungs, peopleFrom } from "./rule-words";
import { type RulesWord, rulesActs } from "./rules-acts";
import { RulesFilePart } from "./rules-file";
import { scaleOf } from "./scale";
import { TrialPanel } from "./trial-panel";
import { NONE, useRules } from "./use-rules";
import { Versions } from "./versions";
import { type Asked, WayPanel } from "./way-panel";

export const loader = page("see ladders", ({ db, person, day, url }) => {
  const books = readRulebooks(db);
  const inForce = rulebookOn(db, day);
  const wanted = wholeOf(url, "version", { least: 0, most: 1e9, or: 0 });
  const shown = books.find((b) => b.version === wanted) ?? null;
  const draft = shown ? null : readRulebookDraft(db);
  return {
    books: books.map(({ version, starts, kept, person: by, takenBack, ladders }) => ({
      version,
      starts,
      kept,
      person: by,
      takenBack,
      ladders: ladders.length,
    })),
    inForce,
    shown,
    draft,
    choices: readRuleChoices(db),
    mayKeep: may(person.roles, "keep ladders"),
  };
});

export const action = actions("keep ladders", rulesActs);

const nextMonday = (today: Day) => addDays(today, 8 - weekday(today));

/** The rules of sign-off: drawn as ladders, tried on an amount and on the past, written, and started from a day on. */
export default function Ladders() {
  const loaded = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  // Another version, or a draft that came or went, begins afresh.
  const [begun, setBegun] = useState(0);
  // An answer comes before what was read anew after it: the page begins once both are there.
  const idle = useNavigation().state === "idle";
  const handled = useRef(answer);
  useEffect(() => {
    if (!idle || answer === handled.current) return;
    handled.current = answer;
    if (answer?.ok && isRecord(answer.value) && ("started" in answer.value || "dropped" in answer.value))
      setBegun((n) => n + 1);
  }, [answer, idle]);
  const key = loaded.shown ? `version ${loaded.shown.version}` : `draft ${begun}`;
  return <RulesSheet key={key} loaded={loaded} onAnew={() => setBegun((n) => n + 1)} />;
}

type Loaded = ReturnType<typeof useLoaderData<typeof loader>>;

function RulesSheet({ loaded, onAnew }: { loaded: Loaded; onAnew: () => void }) {
  const { books, inForce, shown, draft, choices, mayKeep } = loaded;
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const answer = useActionData<typeof action>();
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const { search, put } = useAddress();
  const written = useRules(w.person, shown ?? draft?.rules ?? inForce ?? NONE, draft?.version ?? 0, onAnew);
  const { rules, kept } = written;
  const writes = mayKeep && !shown;
  const people = useMemo(() => peopleFrom(choices), [choices]);
  const scale = useMemo(() => scaleOf(rules.ladders, 10 ** exponent(w.home)), [rules, w.home]);
  const faults = useMemo(
    () => faultsOf(rules, people, knownOf(choices), w.home, w.locale),
    [rules, people, choices, w.home, w.locale],
  );
  const [asked, setAsked] = useState<Asked>({
    writer: 0,
    facts: {
      paper: "order",
      amount: scale.minorAt(0.62),
      department: null,
      categories: [],
      supplier: null,
      store: null,
      kind: null,
      overBudget: false,
    },
  });
  const key = useSubmissionKey(`${draft?.version ?? 0} ${books.length}`);
  const ladder = rules.ladders.find((l) => String(l.id) === search.get("ladder")) ?? null;
  const choose = (id: number | null) => put({ ladder: id === null ? null : String(id) });
  const add = () => choose(written.add().id);
  const send = async (what: RulesWord, extra: Record<string, string> = {}) => {
    if (busy || !(await kept.settle())) return;
    await submit({ do: what, version: String(kept.version()), key: `${key()}${what}`, ...extra }, { method: "post" });
  };
  const slide = (by: number) => {
    const part = Math.min(1, Math.max(0, scale.at(asked.facts.amount) + by));
    setAsked({ ...asked, facts: { ...asked.facts, amount: scale.minorAt(part) } });
  };
  useKeys([
    { key: "arrowup", label: "a higher amount", run: () => slide(0.025) },
    { key: "arrowdown", label: "a lower amount", run: () => slide(-0.025) },
    { key: "escape", label: "back to who would sign", run: () => choose(null) },
    ...(writes ? [{ key: "n", label: "new ladder", run: add }] : []),
  ]);
  const changed = writes ? changedRungs(inForce, rules) : 0;
  const differs = writes && JSON.stringify(plain(rules)) !== JSON.stringify(plain(inForce ?? NONE));
  const coming = books.filter((b) => b.starts > w.today && b.takenBack === null);
  return (
    <SheetAndSlip
      wide
      sheet={
        <>
          <RulesHead shown={shown} inForce={inForce} differs={differs} kept={kept} />
          {rules.ladders.length === 0 ? (
            <Empty title="No ladders yet">
              Until there is one, nothing can be submitted.{" "}
              {writes && "Begin with N: its first rung takes every amount."}
            </Empty>
          ) : (
            <LadderChart
              ladders={rules.ladders}
              faults={faults}
              scale={scale}
              amount={asked.facts.amount}
              lit={ladderFor(rules, asked.facts)?.id ?? null}
              chosen={ladder?.id ?? null}
              people={people}
              choices={choices}
              onChoose={(id) => choose(id === ladder?.id ? null : id)}
            />
          )}
        </>
      }
      slip={
        ladder && writes ? (
          <OneLadder ladder={ladder} written={written} faults={faults} choices={choices} onClose={() => choose(null)} />
        ) : (
          <AllRules
            written={written}
            people={people}
            scale={scale}
            asked={asked}
            onAsk={setAsked}
            faults={faults}
            loaded={loaded}
          />
        )
      }
      tally={
        <RulesTally
          ladders={rules.ladders.length}
          faults={faults}
          changed={differs ? changed : null}
          coming={coming}
          shown={shown !== null}
          writes={writes}
          busy={busy}
          trouble={problems?.[0]?.says ?? (kept.state === "not kept" ? kept.problems[0]?.says : undefined)}
          onDrop={() => void send("drop")}
          onStart={(starts) => void send("start", { starts })}
        />
      }
    />
  );
}

/** Who would sign what is asked about, what is wrong with the rules, and what they were before. */
function AllRules({
  written,
  people,
  scale,
  asked,
  onAsk,
  faults,
  loaded: { books, inForce, shown, choices, mayKeep },
}: Pick<Parameters<typeof WayPanel>[0], "people" | "scale" | "asked" | "onAsk"> & {
  written: ReturnType<typeof useRules>;
  faults: Faults;
  loaded: Loaded;
}) {
  const { rules } = written;
  const writes = mayKeep && !shown;
  return (
    <>
      <WayPanel rules={rules} people={people} choices={choices} scale={scale} asked={asked} onAsk={onAsk} />
      {faults.length > 0 && <FaultList faults={faults} ladders={rules.ladders} />}
      {writes && <TrialPanel rules={rules} />}
      <AllowanceFields
        allowance={rules.allowance}
        onChange={writes ? (allowance) => written.change({ ...rules, allowance }) : null}
      />
      <Versions books={books} shown={shown?.version ?? null} inForce={inForce?.version ?? null} mayKeep={mayKeep} />
      <RulesFilePart version={shown?.version ?? null} mayKeep={writes} />
    </>
  );
}

type Faults = ReturnType<typeof faultsOf>;

/** The ladder that is written, rung by rung. */
function OneLadder({
  ladder,
  written,
  faults,
  choices,
  onClose,
}: {
  ladder: Ladder;
  written: ReturnType<typeof useRules>;
  faults: Faults;
  choices: Parameters<typeof LadderForm>[0]["choices"];
  onClose: () => void;
}) {
  const { ladders } = written.rules;
  return (
    <>
      <div className="flex items-start justify-between gap-3">
        <SlipHead over={`ladder ${ladders.indexOf(ladder) + 1} of ${ladders.length}`} title={ladder.name} />
        <Button hint="Esc" onClick={onClose}>
          Close
        </Button>
      </div>
      <LadderForm
        key={ladder.id}
        ladder={ladder}
        first={ladders[0] === ladder}
        last={ladders.at(-1) === ladder}
        faults={faults.filter((f) => f.ladder === ladder.id)}
        choices={choices}
        onChange={written.setLadder}
        onMove={(by) => written.move(ladder, by)}
        onDrop={() => {
          onClose();
          written.takeAway(ladder);
        }}
      />
    </>
  );
}

function FaultList({ faults, ladders }: { faults: Faults; ladders: readonly Ladder[] }) {
  return (
    <ul className="flex flex-col gap-1">
      {faults.map((f) => (
        <li key={`${f.ladder} ${f.rung} ${f.says}`}>
          <b className="text-signal">{ladders.find((l) => l.id === f.ladder)?.name}:</b> {f.says}
        </li>
      ))}
    </ul>
  );
}

/** What was changed, and from when it shall rule. */
function RulesTally({
  ladders,
  faults,
  changed,
  coming,
  shown,
  writes,
  busy,
  trouble,
  onDrop,
  onStart,
}: {
  ladders: number;
  faults: Faults;
  /** Rungs that differ from those in force; null where nothing does. */
  changed: number | null;
  coming: readonly { version: number; starts: string }[];
  /** An older version is looked at. */
  shown: boolean;
  writes: boolean;
  busy: boolean;
  trouble: string | undefined;
  onDrop: () => void;
  onStart: (starts: string) => void;
}) {
  const w = useWriting();
  const [starts, setStarts] = useState<string>(nextMonday(w.today));
  return (
    <TallyLine
      trouble={trouble}
      keys={[["arrowup", "amount"], ...(writes ? [["n", "new ladder"] as const] : [])]}
      act={
        shown ? (
          <Link to="/ladders" className="underline">
            To the rules in force
          </Link>
        ) : (
          changed !== null && (
            <>
              <Button disabled={busy} onClick={onDrop}>
                Leave it as it was
              </Button>
              <div className="flex items-center gap-2">
                <span className="text-xs">from</span>
                <DayEntry aria-label="from" className="w-36" min={w.today} value={starts} onDay={setStarts} />
              </div>
              <Button look="main" disabled={busy || faults.some((f) => f.bars)} onClick={() => onStart(starts)}>
                Start these rules
              </Button>
            </>
          )
        )
      }
    >
      <span>{count(ladders, "ladder")}</span>
      {faults.length > 0 && <span className="font-semibold text-signal">{count(faults.length, "fault")}</span>}
      {changed !== null && (
        <span>
          <b>{count(changed, "rung")}</b> changed
        </span>
      )}
      {coming.map((b) => (
        <span key={b.version}>
          rules {b.version} start {w.day(b.starts)}
        </span>
      ))}
    </TallyLine>
  );
}

/** Rules without what a version adds. */
const plain = ({ allowance, ladders }: Rules): Rules => ({ allowance, ladders });

/** Which rules these are, whether they are kept, and whether somebody else changed them. */
function RulesHead({
  shown,
  inForce,
  differs,
  kept,
}: Pick<Loaded, "shown" | "inForce"> & { differs: boolean; kept: ReturnType<typeof useRules>["kept"] }) {
  const w = useWriting();
  return (
    <>
      <SheetHead
        title="Spend ladders"
        sub={
          shown
            ? `rules ${shown.version}, from ${w.day(shown.starts)}`
            : `who signs as amounts rise, ${w.home} before tax; the first that matches is used`
        }
      >
        {differs ? <KeepingNote state={kept.state} /> : inForce && !shown && `in force since ${w.day(inForce.starts)}`}
      </SheetHead>
      {kept.state === "stale" && (
        <p role="alert" className="mx-4.5 mb-2 border-l-4 border-signal bg-signal-2/60 px-3 py-2">
          {kept.problems[0]?.says ?? "Somebody else changed these rules meanwhile."}{" "}
          <Button onClick={() => location.reload()}>See theirs</Button>
        </p>
      )}
    </>
  );
}
