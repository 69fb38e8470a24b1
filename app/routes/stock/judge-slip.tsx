import { countSum, countWords, differenceOf } from "../../../core/stock/stock-count";
import type { PlaceSeen } from "../../../server/queries/stock/stock-counts";
import { SlipForm } from "../../parts/slip-form";
import { TextField } from "../../ui/field";
import { SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import type { CountWord } from "./count-acts";
import { judged } from "./count-texts";

const SAYS = {
  book: "It is booked with the count.",
  again: "It is counted again.",
  leave: "The books stay as they are.",
};

/** One line of a count: how it differs, what that is worth, and what is decided about it. */
export function JudgeSlip({ line: l, judges }: { line: PlaceSeen; judges: boolean }) {
  const w = useWriting();
  const of = judged(l);
  const difference = of && differenceOf(of);
  const sum = of && countSum(of, l.unit);
  const fields = { line: l.id, seen: l.counted ?? 0 };
  return (
    <>
      <SlipHead
        over={[l.bin ? `bin ${l.bin}` : "dock", l.lot && `lot ${l.lot}`].filter(Boolean).join(" · ")}
        title={l.name}
      >
        <p className="mt-1 text-ink-2">{l.by ? `counted by ${l.by}` : "not counted yet"}</p>
      </SlipHead>
      {sum && <SumSheet sum={sum} />}
      {of && difference !== null && (
        <p className={difference === 0 ? "text-weed" : "font-semibold text-signal"}>
          {countWords(difference)}
          {l.value !== null && `, worth ${w.amount(l.value)}`}
        </p>
      )}
      {l.verdict && <p>{SAYS[l.verdict]}</p>}
      {l.reason && <p className="border-l-4 border-ink pl-3">{l.reason}</p>}
      {judges && !!difference && l.booked === null && (
        <div className="flex flex-col gap-1.5">
          {l.mine ? (
            <p className="text-ink-2">You counted this yourself: somebody else decides about it.</p>
          ) : (
            <>
              <SlipForm<CountWord> does="judge one" fields={{ ...fields, what: "book" }} label="Book it" send="Book it">
                <TextField label="Why it differs, if you know" name="reason" maxLength={200} />
              </SlipForm>
              <SlipForm<CountWord>
                does="judge one"
                fields={{ ...fields, what: "leave" }}
                label="Leave the books as they are"
                send="Leave them"
              >
                <TextField label="Why" name="reason" maxLength={200} />
              </SlipForm>
            </>
          )}
          <SlipForm<CountWord>
            does="judge one"
            fields={{ ...fields, what: "again" }}
            label="Have it counted again"
            send="Count again"
          >
            <TextField label="What to look for" name="reason" maxLength={200} />
          </SlipForm>
        </div>
      )}
    </>
  );
}
