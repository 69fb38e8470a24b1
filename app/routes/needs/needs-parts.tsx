import { Link } from "react-router";
import type { BenchId } from "../../../core/ids";
import { ONE } from "../../../core/numbers/quantity";
import { count } from "../../../core/text";
import { Button } from "../../ui/button";
import { Empty, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { TallyLine } from "../../ui/tally-line";
import type { TickedSum } from "./ticked";
import type { useChoices } from "./use-needs";

/** How many needs there are, how far a plan is, and the ways to the other pages of needs. */
export function NeedsHead({
  working,
  stopped,
  shown,
  all,
  stores,
  unknown,
  mayWrite,
  onPlan,
}: {
  working: { done: number; of: number } | null;
  stopped: boolean;
  shown: number;
  all: number;
  stores: number;
  /** Codes that nobody knows yet. */
  unknown: number;
  mayWrite: boolean;
  onPlan: (act: "stop plan" | "begin plan") => void;
}) {
  const w = useWriting();
  const many = (n: number) => w.quantity(n * ONE);
  const sub = working
    ? `working out ${many(working.done)} of ${many(working.of)}…`
    : shown !== all
      ? `${shown} of ${count(all, "need")}`
      : `${count(all, "need")} at ${count(stores, "store")}`;
  return (
    <>
      <SheetHead title="What has to be bought" sub={sub}>
        {working && mayWrite && (
          <Button look="plain" onClick={() => onPlan("stop plan")}>
            Stop
          </Button>
        )}
        {mayWrite && (
          <>
            {unknown > 0 && (
              <Link className="font-semibold text-signal underline" to="/needs/sort-out">
                {count(unknown, "code")} to sort out
              </Link>
            )}
            <Link className="underline" to="/needs/bring">
              Bring a file
            </Link>
            <Link className="underline" to="/needs/review">
              Reorder points
            </Link>
          </>
        )}
      </SheetHead>
      {stopped && (
        <p
          role="status"
          className="mx-4.5 mb-2 flex items-center gap-3 border-l-4 border-signal bg-signal-2/60 px-3 py-1.5"
        >
          The plan was stopped; what stands here is of before.
          <Button look="plain" onClick={() => onPlan("begin plan")}>
            Work it out again
          </Button>
        </p>
      )}
    </>
  );
}

/** What the ticked needs come to, in the bar along the bottom. */
export function TickedWords({ sum }: { sum: TickedSum }) {
  const w = useWriting();
  const { lying, late } = sum;
  return (
    <>
      <span>
        <b>{sum.suppliers}</b> {sum.suppliers === 1 ? "supplier" : "suppliers"}
      </span>
      <span>
        <b className="figure">{w.amount(sum.home)}</b> before tax
        {sum.unpriced > 0 && `, ${sum.unpriced} without a price`}
      </span>
      {lying.length > 0 && (
        <span className="font-semibold text-signal">
          {lying.length === 1 ? `${lying[0]!.name} lies` : `${lying.length} lie`} on{" "}
          {[...new Set(lying.map((t) => `“${t.bench}”`))].slice(0, 2).join(" and ")} already
        </span>
      )}
      {late > 0 && (
        <span className="font-semibold text-signal">
          {late === 1 ? "1 misses its date" : `${late} miss their dates`}
        </span>
      )}
    </>
  );
}

/** Why no need stands in the sheet. */
export function NoNeeds({ working, narrowed }: { working: boolean; narrowed: boolean }) {
  return (
    <Empty title={working ? "Working it out" : narrowed ? "Nothing of this kind" : "Nothing has to be bought"}>
      {working
        ? "The needs appear here as soon as the first plan of this day is made."
        : narrowed
          ? "Choose another cut above, or find something else."
          : "No item falls below its reorder point within its lead time, and everything that was asked for is ordered."}
    </Empty>
  );
}

/** What is ticked comes to, and what is done with it. */
export function NeedsTally({
  choices,
  sum,
  trouble,
  ticked,
  onTicked,
  writing,
}: {
  choices: ReturnType<typeof useChoices>;
  sum: TickedSum;
  trouble: string | null;
  /** Only what is ticked is shown. */
  ticked: boolean;
  onTicked: () => void;
  /** Null for whoever may not write. */
  writing: {
    benches: readonly { id: BenchId; name: string }[];
    bench: string;
    onBench: (bench: string) => void;
    onLay: (() => Promise<void>) | null;
    onWrite: (() => Promise<void>) | null;
    busy: boolean;
  } | null;
}) {
  const { keys } = choices;
  return (
    <TallyLine
      trouble={trouble}
      keys={[
        [" ", "tick"],
        ["e", "edit quantity"],
        ["w", "the sum"],
      ]}
      act={
        writing && (
          <>
            {writing.benches.length > 0 && (
              <select
                aria-label="On which bench"
                value={writing.bench}
                onChange={(e) => writing.onBench(e.target.value)}
                className="entry max-w-36"
              >
                <option value="">a new bench</option>
                {writing.benches.map((b) => (
                  <option key={b.id} value={b.id}>
                    {b.name}
                  </option>
                ))}
              </select>
            )}
            <Button hint="B" disabled={!writing.onLay} onClick={() => void writing.onLay?.()}>
              Lay out
            </Button>
            <Button look="main" hint="O" disabled={!writing.onWrite} onClick={() => void writing.onWrite?.()}>
              {writing.busy ? "Writing…" : choices.working ? "Write orders" : `Write ${count(sum.orders, "order")}`}
            </Button>
          </>
        )
      }
    >
      <button type="button" className={`hover:underline ${ticked ? "underline" : ""}`} onClick={onTicked}>
        <b>{keys.size}</b> ticked
      </button>
      {choices.working ? <span className="text-ink-2">adding up…</span> : <TickedWords sum={sum} />}
      {keys.size > 0 && writing && (
        <Button look="plain" className="min-h-0" onClick={() => void choices.all("forget")}>
          Untick all
        </Button>
      )}
    </TallyLine>
  );
}
