import { memo, useMemo, useState } from "react";
import { Link } from "react-router";
import type { OrderId } from "../../../core/ids";
import { placingFrom } from "../../../core/placing/choice";
import { differenceSum } from "../../../core/placing/explain";
import { type LeftOut, leftOut } from "../../../core/placing/hinder";
import { type Placing, preferredPlacing } from "../../../core/placing/problem";
import { type Reckoned, reckonPlacing } from "../../../core/placing/reckon";
import { count } from "../../../core/text";
import type { Aim, Plan, Plans } from "../../../server/jobs/placing/plans";
import type { BenchSheet } from "../../../server/queries/placing/bench";
import { Button } from "../../ui/button";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import { FillUps } from "./fill-ups";
import type { Grid } from "./use-bench";

const NAMES: Record<Aim | "preferred", string> = {
  preferred: "Preferred suppliers",
  lowest: "Lowest landed cost",
  "in time": "All in time",
  fewest: "Fewest orders",
};
const PROVED: Record<Aim, string> = {
  lowest: "proved: nothing cheaper exists",
  "in time": "proved: nothing is less late for less",
  fewest: "proved: fewer orders cannot do",
};

interface Props {
  sheet: BenchSheet;
  grid: Grid;
  plans: Plans | null;
  mayWrite: boolean;
  onTake: (aim: Aim | "preferred") => void;
  onBegin: () => void;
  onStop: () => void;
  onJoin: (order: OrderId, join: boolean) => void;
  /** Another number of days of use that plans may buy ahead. */
  onAhead: (days: string) => void;
  /** Waits until every choice is kept. */
  settle: () => Promise<boolean>;
  onBring: (order: string, ids: string[]) => void;
}

/** The computed ways to place the needs, each with what it costs against the preferred suppliers; and drafts to join. */
export const Ways = memo(function Ways({
  sheet,
  grid,
  plans,
  mayWrite,
  onTake,
  onBegin,
  onStop,
  onJoin,
  onAhead,
  settle,
  onBring,
}: Props) {
  const { problem } = sheet;
  const preferred = useMemo(() => preferredPlacing(problem), [problem]);
  const now = useMemo(() => placingFrom(problem.rows, grid.choices), [problem, grid]);
  const base = useMemo(() => reckonPlacing(problem, preferred), [problem, preferred]);
  const standing: Partial<Record<string, Plan>> = Object.fromEntries((plans?.plans ?? []).map((p) => [p.aim, p]));
  const taken = (placing: Placing | null) => placing !== null && sameOf(placing, now);
  const ways: (Aim | "preferred")[] = ["preferred", "lowest", "in time", "fewest"];
  const sum = useMemo(() => differenceSum(problem, preferred, now), [problem, preferred, now]);
  const leftOfPreferred = useMemo(() => leftOut(problem, preferred), [problem, preferred]);
  const left = [
    ...new Set(
      [...leftOfPreferred, ...(plans?.plans ?? []).filter((p) => p.placing).flatMap((p) => p.left)].map((l) => l.says),
    ),
    ...new Set((plans?.plans ?? []).filter((p) => p.placing).flatMap((p) => p.why)),
  ];
  return (
    <>
      <section className="flex flex-col gap-2">
        <h2 className="sr-only">Ways to place these</h2>
        {ways.map((aim) => {
          const plan = aim === "preferred" ? null : (standing[aim] ?? null);
          const placing = aim === "preferred" ? preferred : (plan?.placing ?? null);
          return (
            <Way
              key={aim}
              aim={aim}
              sheet={sheet}
              placing={placing}
              plan={plan}
              base={base.cost}
              preferred={preferred}
              left={aim === "preferred" ? leftOfPreferred : (plan?.left ?? [])}
              taken={taken(placing)}
              onTake={mayWrite && placing ? () => onTake(aim) : null}
            />
          );
        })}
        {mayWrite && (
          <div className="flex flex-wrap items-center gap-3 text-xs">
            {plans?.working ? (
              <Button look="plain" className="min-h-0" onClick={onStop}>
                Stop working them out
              </Button>
            ) : (
              (!plans || plans.plans.some((p) => p.state === "stopped" || p.state === "none")) && (
                <Button look="plain" className="min-h-0" onClick={onBegin}>
                  {plans ? "Work them out again" : "Work the plans out"}
                </Button>
              )
            )}
            <AheadDays days={sheet.head.aheadDays} onAhead={onAhead} />
            <Link
              className="ml-auto whitespace-nowrap text-ink-2 underline"
              to={`/bench/${sheet.head.id}/model.lp`}
              reloadDocument
            >
              The model as a file
            </Link>
          </div>
        )}
      </section>
      {left.length > 0 && (
        <SlipPart title="Left out of the plans">
          <ul className="border-l-4 border-signal pl-3">
            {left.slice(0, 6).map((says) => (
              <li key={says}>{says}</li>
            ))}
            {left.length > 6 && <li>and {left.length - 6} more</li>}
          </ul>
        </SlipPart>
      )}
      {sum.steps.length > 2 && <SumSheet sum={{ ...sum, title: "The grid against the preferred suppliers" }} />}
      <FillUps sheet={sheet} grid={grid} mayWrite={mayWrite} settle={settle} onBring={onBring} />
      {sheet.drafts.length > 0 && (
        <SlipPart title="Drafts that new lines could join">
          <ul className="border border-rule bg-sheet">
            {sheet.drafts.map((d) => (
              <DraftRow key={d.id} draft={d} sheet={sheet} mayWrite={mayWrite} onJoin={onJoin} />
            ))}
          </ul>
        </SlipPart>
      )}
    </>
  );
});

function DraftRow({
  draft: d,
  sheet,
  mayWrite,
  onJoin,
}: {
  draft: BenchSheet["drafts"][number];
  sheet: BenchSheet;
  mayWrite: boolean;
  onJoin: Props["onJoin"];
}) {
  const w = useWriting();
  const name = sheet.problem.suppliers.find((s) => s.id === d.supplier)?.name ?? "";
  return (
    <li className="flex items-center gap-2 border-b border-rule-2 px-2.5 py-1.5 last:border-0">
      <input
        id={`join-${d.id}`}
        type="checkbox"
        checked={d.joined}
        disabled={!mayWrite}
        onChange={(e) => onJoin(d.id, e.target.checked)}
        className="size-[15px] accent-harbour"
      />
      <label htmlFor={`join-${d.id}`} className="min-w-0 flex-1">
        <span className="block truncate">
          {name}, {sheet.problem.stores[d.store]}
        </span>
        <span className="code">
          {d.name}, {count(d.lines, "line")} of {w.moment(d.written)}
        </span>
      </label>
      <span className="figure">{w.amount(d.net, d.currency)}</span>
    </li>
  );
}

/** Needs by name: two of them, and how many more. */
const namesOf = (names: readonly string[]): string => {
  const [first, second, ...more] = [...new Set(names)];
  if (!second) return first ?? "";
  return more.length ? `${first}, ${second} and ${more.length} more` : `${first} and ${second}`;
};
export const rowNames = (lines: readonly { row: { name: string } }[]) => namesOf(lines.map((l) => l.row.name));

/** New orders, and drafts that lines join: those are orders already. */
export const orderWords = ({ orders, written }: Pick<Reckoned, "orders" | "written">): string => {
  const joined = orders.length - written;
  if (joined === 0) return count(written, "order");
  return `${written === 0 ? "no new order" : count(written, "new order")}, ${count(joined, "draft")} joined`;
};

const lateWords = (r: Reckoned): string =>
  r.late === 0 ? (r.never.length ? "no other line late" : "no line late") : `${count(r.late, "line")} late`;

/** How many days of use plans may buy ahead: kept when one leaves the field. */
function AheadDays({ days, onAhead }: { days: number; onAhead: (days: string) => void }) {
  return (
    <label className="flex items-center gap-1 whitespace-nowrap text-ink-2">
      Buy ahead at most
      <input
        key={days}
        className="entry figure w-12 py-0 text-right"
        inputMode="numeric"
        maxLength={3}
        defaultValue={days}
        aria-label="Days of use that plans may buy ahead"
        onBlur={(e) => e.target.value !== String(days) && onAhead(e.target.value)}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      />
      days of use
    </label>
  );
}

const sameOf = (a: Placing, b: Placing): boolean => {
  const text = (p: Placing) =>
    Object.keys(p)
      .filter((k) => p[k]!.length > 0)
      .sort()
      .map(
        (k) =>
          `${k}:${[...p[k]!]
            .map((q) => `${q.supplier}=${q.buy}`)
            .sort()
            .join("+")}`,
      )
      .join("|");
  return text(a) === text(b);
};

/** What a way leaves open. */
function StandsOut({ reckoned, left }: { reckoned: Reckoned; left: readonly LeftOut[] }) {
  const lines = [
    left.length > 0 && `leaves out ${namesOf(left.map((l) => l.name))}`,
    reckoned.unpriced.length > 0 && `${rowNames(reckoned.unpriced)} without a price`,
    reckoned.never.length > 0 && `${rowNames(reckoned.never)} never arrives`,
  ];
  return lines.filter(Boolean).map((says) => (
    <span key={String(says)} className="block font-semibold text-signal">
      {says}
    </span>
  ));
}

function Way({
  aim,
  sheet,
  placing,
  plan,
  base,
  preferred,
  left,
  taken,
  onTake,
}: {
  aim: Aim | "preferred";
  sheet: BenchSheet;
  placing: Placing | null;
  plan: Plan | null;
  base: number;
  preferred: Placing;
  left: readonly LeftOut[];
  taken: boolean;
  onTake: (() => void) | null;
}) {
  const w = useWriting();
  const [open, setOpen] = useState(false);
  const reckoned = useMemo(() => placing && reckonPlacing(sheet.problem, placing), [sheet.problem, placing]);
  const difference = reckoned ? reckoned.cost - base : 0;
  const planned = plan ? STATES[plan.state] : "not worked out yet";
  const short = reckoned?.orders.filter((o) => o.lacks > 0) ?? [];
  return (
    <article
      aria-label={NAMES[aim]}
      className={`border bg-sheet px-3 py-2 ${taken ? "border-ink outline outline-1 outline-ink" : "border-rule"}`}
    >
      <div className="flex items-baseline justify-between gap-2">
        <h3 className="font-sans font-semibold">{NAMES[aim]}</h3>
        {reckoned && <b className="figure">{w.money(reckoned.cost)}</b>}
      </div>
      <div className="flex items-baseline justify-between gap-2 text-xs text-ink-2">
        <span>{reckoned ? `${orderWords(reckoned)}, ${lateWords(reckoned)}` : planned}</span>
        {reckoned && difference !== 0 && (
          <b className={`figure ${difference < 0 ? "text-weed" : "text-signal"}`}>
            {difference > 0 ? "+" : ""}
            {w.money(difference)}
          </b>
        )}
      </div>
      <div className="flex items-end justify-between gap-2">
        <p className="text-xs text-ink-2">
          {plan && reckoned && aim !== "preferred" && (
            <ProofWords plan={plan} aim={aim} days={sheet.head.aheadDays} left={left.length} />
          )}
          {reckoned && reckoned.holding > 0 && (
            <span className="block">holding what is bought ahead: {w.money(reckoned.holding)}</span>
          )}
          {reckoned && <StandsOut reckoned={reckoned} left={left} />}
          {plan && !reckoned && plan.why.join(" ")}
          {short.length > 0 && (
            <span className="block font-semibold text-signal">
              {short.length === 1
                ? `${short[0]!.terms.name} is under its least order`
                : `${short.length} orders are under the least`}
            </span>
          )}
        </p>
        {reckoned && aim !== "preferred" && !taken && difference !== 0 && (
          <Button
            look="plain"
            className="ml-auto min-h-0 py-0 text-xs font-normal"
            aria-expanded={open}
            aria-label={`What it moves: ${NAMES[aim]}`}
            onClick={() => setOpen((o) => !o)}
          >
            What it moves
          </Button>
        )}
        {taken ? (
          <b className="text-xs whitespace-nowrap">in the grid</b>
        ) : (
          onTake && (
            <Button
              look="plain"
              className="min-h-0 py-0 text-xs"
              onClick={onTake}
              aria-label={`Take it: ${NAMES[aim]}`}
            >
              Take it
            </Button>
          )
        )}
      </div>
      {open && !taken && placing && (
        <div className="mt-1.5">
          <SumSheet
            sum={{
              ...differenceSum(sheet.problem, preferred, placing),
              title: `What ${NAMES[aim].toLowerCase()} moves`,
            }}
            heading={false}
          />
        </div>
      )}
    </article>
  );
}

const STATES: Record<Plan["state"], string> = {
  waiting: "waits for its turn",
  working: "is being worked out…",
  proved: "",
  stopped: "was stopped",
  none: "there is none",
};

/** Proved, or how far from it. */
function ProofWords({ plan, aim, days, left }: { plan: Plan; aim: Aim; days: number; left: number }) {
  const w = useWriting();
  if (plan.state === "proved")
    return (
      <>
        {PROVED[aim]}
        {left > 0 && " for the others"}
        {days > 0 ? `, with at most ${count(days, "day")} of use bought ahead` : ", with nothing bought ahead"}
      </>
    );
  const s = plan.standing;
  if (!s || s.best === null || !Number.isFinite(s.bound)) return <>best so far{plan.state === "working" && "…"}</>;
  const distance = Math.max(0, s.best - s.bound);
  const most = s.measure === "cost" ? w.amount(distance) : `${distance} ${UNITS[s.measure]}`;
  return (
    <>
      best so far{plan.state === "working" && "…"}: at most {most} from the best there is
    </>
  );
}
const UNITS: Record<string, string> = { late: "late lines", "days late": "days", orders: "orders" };
