import { Link } from "react-router";
import { ONE } from "../../../core/numbers/quantity";
import { count } from "../../../core/text";
import { Button } from "../../ui/button";
import { SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { TickedSum } from "./ticked";

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
