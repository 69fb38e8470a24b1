import { Popover } from "radix-ui";
import { factorOf, purchase, quantityText, toStock } from "../../../core/numbers/quantity";
import { judgeReason, judgeSum, verdictOf } from "../../../core/receiving/count";
import type { CountLine } from "../../../server/queries/receiving/count-lines";
import { useWriting } from "../../ui/locale";
import { TallyGates } from "../../ui/signs";
import { SumSheet } from "../../ui/sum";
import { BinPart } from "./bin-part";
import { Counter } from "./counter";
import { countOfLine, leftOfLine, lineWords, type PartTexts, parseCount } from "./counting";
import type { CountsLine } from "./counts-line";
import { FaultyPart } from "./faulty-part";
import { LotPart } from "./lot-part";
import { WeightPart } from "./weight-part";

interface Props {
  line: CountLine;
  /** The order it is of, where the sheet is of many. */
  of?: string;
  /** The count as typed, in its lots. */
  parts: readonly PartTexts[];
  /** Whom it waits for. */
  buyer: string;
  /** What is expected is not shown before something was counted. */
  blind: boolean;
  /** It is the one that was touched last. */
  at: boolean;
  /** May this person count? */
  counts: boolean;
  /** What is wrong with a part’s field, as it was sent. */
  problem: (index: number, field: string) => string | undefined;
  /** The parts of which something is not good stand open. */
  faulty: boolean;
  onFaulty: () => void;
  /** Where each part was put at once stands open, too. */
  binned: boolean;
  onBinned: () => void;
  count: CountsLine;
}

/** A line of a load: what is to come, what was counted, and how the two compare while one counts. */
export function CountRow(props: Props) {
  const { line: l, parts, at, counts, blind, count, problem, faulty, binned } = props;
  const w = useWriting();
  const left = leftOfLine(l);
  const touched = parts.some((p) => p.count !== "" || p.faulty !== "");
  const countable = counts && (left > 0 || touched);
  const hidden = blind && counts && !touched;
  const [first] = parts;
  return (
    <li id={`count-${l.line}`} className={`border-b border-rule-2 px-4.5 py-1.5 ${at ? "bg-here" : ""}`}>
      <div className="grid min-h-[60px] grid-cols-[minmax(0,1fr)_92px_150px_250px] items-center gap-3 max-lg:grid-cols-[minmax(0,1fr)_auto]">
        <span className="min-w-0 leading-tight">
          <span className="block font-semibold text-[15px]">{l.name}</span>
          <span className="code">
            {[
              props.of,
              l.code,
              l.theirCode && `theirs ${l.theirCode}`,
              l.bin && `bin ${l.bin}`,
              l.forWhom && `for ${l.forWhom}`,
            ]
              .filter(Boolean)
              .join(" · ")}
          </span>
          {countable && (
            <span className="ml-2 inline-flex gap-3 text-2xs text-ink-2 max-lg:ml-0 max-lg:flex">
              <button
                type="button"
                className="underline max-lg:min-h-12"
                aria-label={`not good: ${l.name}`}
                aria-pressed={faulty}
                onClick={props.onFaulty}
              >
                not good
              </button>
              {l.stockUnit && (
                <button
                  type="button"
                  className="underline max-lg:min-h-12"
                  aria-label={`put away at once: ${l.name}`}
                  aria-pressed={binned}
                  onClick={props.onBinned}
                >
                  put away at once
                </button>
              )}
              {l.lots && (
                <button
                  type="button"
                  className="underline max-lg:min-h-12"
                  aria-label={`${l.lots.bySerial ? "another piece" : "another lot"} of ${l.name}`}
                  onClick={count.another}
                >
                  {l.lots.bySerial ? "another piece" : "another lot"}
                </button>
              )}
            </span>
          )}
        </span>
        <span className="text-right whitespace-nowrap">
          <span className="font-mono text-xl text-ink-3">{hidden ? "?" : w.quantity(left)}</span>{" "}
          <span className="text-xs text-ink-3">{l.unit}</span>
        </span>
        {countable ? (
          <Counter
            label={`Counted ${l.name}, in ${l.unit}`}
            name={l.name}
            text={first?.count ?? ""}
            about={`judged-${l.line}`}
            wrong={problem(0, "counted") !== undefined || !parseCount(first?.count).ok}
            onText={(text) => count.set(0, { count: text })}
            onStep={(by) => count.step(0, by)}
            onHere={count.here}
            onNext={count.next}
          />
        ) : (
          <span className="text-right text-ink-3">{left > 0 ? "" : "all in"}</span>
        )}
        <Judged {...props} hidden={hidden} />
      </div>
      {countable && (l.lots || l.weighed || parts.length > 1 || faulty || binned) && (
        <ul className="mt-1 mb-1.5 flex flex-col gap-1.5" aria-label={`Lots and faults of ${l.name}`}>
          {parts.map((p, i) => (
            <li key={i} className="flex flex-wrap items-start gap-2">
              {l.lots && <LotPart line={l} rule={l.lots} part={p} index={i} count={count} problem={problem} />}
              {l.weighed && <WeightPart line={l} part={p} index={i} count={count} problem={problem} />}
              {binned && <BinPart line={l} part={p} index={i} count={count} problem={problem} />}
              {faulty && <FaultyPart line={l} part={p} index={i} count={count} problem={problem} />}
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}

const LOOKS: Partial<Record<ReturnType<typeof verdictOf>, string>> = {
  waits: "text-signal",
  "goes back": "text-signal",
  kept: "text-weed",
  closes: "text-weed",
  "as ordered": "text-weed",
};

/** How the count compares with what is to come, in tally gates and in words; the words open the sum. */
function Judged({ line: l, parts, buyer, problem, hidden }: Props & { hidden: boolean }) {
  const w = useWriting();
  const of = countOfLine(l, parts, w.today);
  const refused = problem(0, "counted");
  const wrong = parts.flatMap((p) => [parseCount(p.count), parseCount(p.faulty)]).find((p) => !p.ok);
  if (refused || !of)
    return (
      <span id={`judged-${l.line}`} className="text-xs font-semibold text-signal max-lg:col-span-2">
        {refused ?? (wrong && !wrong.ok ? wrong.says : "")}
      </span>
    );
  const { judged, good, faulty } = of;
  const verdict = verdictOf(judged);
  const left = leftOfLine(l);
  const stock = l.stockUnit && l.stockUnit !== l.unit ? toStock(purchase(judged.taken), factorOf(l.factor)) : 0;
  const reason = judgeReason(judged, l.counted.tolerance);
  const says = left === 0 && good === 0 ? "all of it came" : hidden ? "not counted yet" : lineWords(of, l.unit, buyer);
  return (
    <span id={`judged-${l.line}`} className="min-w-0 leading-tight max-lg:col-span-2">
      {good > 0 && <TallyGates counted={good} />}
      {good > 0 ? (
        <Popover.Root>
          <Popover.Trigger
            className={`block text-left text-xs font-semibold underline decoration-rule underline-offset-2 ${LOOKS[verdict] ?? "text-ink-2"}`}
          >
            {says}
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="end"
              sideOffset={4}
              collisionPadding={12}
              aria-label="What may be kept"
              className="z-40 w-[300px] border-2 border-ink bg-sheet p-3"
            >
              <SumSheet sum={judgeSum(l.counted, judged, l.unit)} />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      ) : (
        <span className="block text-xs font-semibold text-ink-2">{says}</span>
      )}
      {reason && <span className={`block text-2xs ${LOOKS[verdict] ?? "text-ink-3"}`}>{reason}</span>}
      {faulty > 0 && (
        <span className="block text-2xs font-semibold text-signal">
          {quantityText(faulty)} not good, set aside for {buyer}
        </span>
      )}
      {stock > 0 && (
        <span className="block text-2xs text-ink-3">
          {w.quantity(stock)} {l.stockUnit} into stock
        </span>
      )}
      {left > 0 && good === 0 && !hidden && <span className="block text-2xs text-ink-3">due {w.day(l.due)}</span>}
    </span>
  );
}
