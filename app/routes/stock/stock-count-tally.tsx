import type { PlaceSeen } from "../../../server/queries/stock/stock-counts";
import { Button } from "../../ui/button";
import { problemAt } from "../../ui/field";
import { TallyLine } from "../../ui/tally-line";
import type { useJudging } from "./use-judging";
import type { useStockCount } from "./use-stock-count";

/** How far a count of the stock is, and the one act that comes next: hand in, judge, book. */
export function CountTallyOfStock({
  lines,
  open,
  counts,
  counting,
  judging,
  problems,
}: {
  lines: readonly PlaceSeen[];
  open: boolean;
  counts: boolean;
  counting: ReturnType<typeof useStockCount>;
  judging: ReturnType<typeof useJudging>;
  problems: readonly { field: string; says: string }[] | undefined;
}) {
  const typed = counting.now.rows.length + counting.now.found.length;
  const wrong = counting.wrong
    ? "A count is not a number."
    : problems?.length
      ? "Some counts need another look; they are marked."
      : null;
  return (
    <TallyLine
      trouble={problemAt(problems, "") ?? wrong}
      keys={open ? [["c", "code"]] : []}
      act={
        <>
          {judging.differ.length > 0 && (
            <Button
              look={typed > 0 ? "quiet" : "main"}
              hint="B"
              disabled={judging.busy}
              onClick={() => judging.all("book")}
            >
              Book all {judging.differ.length} that differ
            </Button>
          )}
          {counts && (typed > 0 || lines.some((l) => l.counted === null)) && (
            <Button
              look="main"
              hint="T"
              className="max-lg:min-h-12"
              disabled={counting.busy || counting.wrong || typed === 0}
              onClick={counting.handIn}
            >
              Hand in
            </Button>
          )}
          {judging.ready && typed === 0 && (
            <Button look="main" disabled={judging.busy} onClick={judging.book}>
              Book the count
            </Button>
          )}
        </>
      }
    >
      <span>
        <b>{lines.filter((l) => l.counted !== null).length}</b> of {lines.length} counted
      </span>
      {judging.undecided > 0 && <span className="font-semibold text-signal">{judging.undecided} to be judged</span>}
    </TallyLine>
  );
}
