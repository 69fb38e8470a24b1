import type { CountLine } from "../../../server/queries/receiving/count-lines";
import { Button } from "../../ui/button";
import { TallyLine } from "../../ui/tally-line";
import type { SheetCount } from "./counting";

/** How much is counted, and taking it into stock. */
export function CountTally({
  counting,
  counts,
  blind,
  buyer,
  busy,
  trouble,
  onRest,
  onTake,
}: {
  counting: SheetCount<CountLine>;
  counts: boolean;
  blind: boolean;
  buyer: string;
  busy: boolean;
  trouble: string | null;
  onRest: () => void;
  onTake: () => void;
}) {
  const { open, some, waits, bins } = counting;
  return (
    <TallyLine
      trouble={trouble}
      keys={counts ? [["c", "code"], ...(blind ? [] : [REST]), ["x", "not good"]] : []}
      act={
        counts && (
          <>
            {!blind && (
              <Button className="max-lg:min-h-12" onClick={onRest}>
                Rest as ordered
              </Button>
            )}
            <Button
              look="main"
              hint="T"
              className="max-lg:min-h-12"
              disabled={busy || counting.wrong || some.length === 0}
              onClick={onTake}
            >
              {busy ? "Taking in…" : "Take into stock"}
            </Button>
          </>
        )
      }
    >
      <span>
        <b>{some.length}</b> of {open.length} {open.length === 1 ? "line" : "lines"} counted
      </span>
      {waits.length > 0 && (
        <span className="font-semibold text-signal">
          {waits.length} {waits.length === 1 ? "waits" : "wait"} for {buyer}
        </span>
      )}
      {bins.length > 0 && (
        <span>
          to stow: <b>{bins.join(", ")}</b>
        </span>
      )}
    </TallyLine>
  );
}

const REST: [string, string] = ["r", "rest as ordered"];
