import { factorOf, purchase, toStock } from "../../../core/numbers/quantity";
import { judgeWords } from "../../../core/receiving/count";
import type { CountSheet } from "../../../server/queries/receiving/dock";
import { useWriting } from "../../ui/locale";
import { TallyGates } from "../../ui/signs";
import { judgeCount, leftOfLine, parseCount } from "./counting";

/** A line of a load: what is to come, what was counted, and how the two compare while one counts. */
export function CountRow({
  line: l,
  text,
  at,
  counts,
  problem,
  count,
}: {
  line: CountSheet["lines"][number];
  /** The count as typed. */
  text: string;
  /** It is the one that was touched last. */
  at: boolean;
  /** May this person count? */
  counts: boolean;
  problem?: string;
  count: { set: (text: string) => void; step: (by: number) => void; here: () => void; next: () => void };
}) {
  const w = useWriting();
  const left = leftOfLine(l);
  const p = parseCount(text);
  const judged = judgeCount(l, text);
  const wrong = !p.ok || judged?.kind === "over" || problem !== undefined;
  return (
    <li
      id={`count-${l.line}`}
      className={`grid min-h-[74px] grid-cols-[minmax(0,1fr)_92px_150px_250px] items-center gap-3 border-b border-rule-2 px-4.5 py-1.5 max-lg:grid-cols-[minmax(0,1fr)_auto] ${at ? "bg-here" : ""}`}
    >
      <span className="min-w-0 leading-tight">
        <span className="block font-semibold text-[15px]">{l.name}</span>
        <span className="code">
          {[l.code, l.theirCode && `theirs ${l.theirCode}`, l.bin && `rack ${l.bin}`, l.forWhom && `for ${l.forWhom}`]
            .filter(Boolean)
            .join(" · ")}
        </span>
      </span>
      <span className="text-right whitespace-nowrap">
        <span className="font-mono text-xl text-ink-3">{w.quantity(left)}</span>{" "}
        <span className="text-xs text-ink-3">{l.unit}</span>
      </span>
      {left > 0 && counts ? (
        <Counter line={l} text={text} wrong={wrong} count={count} />
      ) : (
        <span className="text-right text-ink-3">{left > 0 ? "" : "all in"}</span>
      )}
      <Judged line={l} text={text} problem={problem} wrong={wrong} />
    </li>
  );
}

interface Props {
  line: CountSheet["lines"][number];
  text: string;
  wrong: boolean;
}

/** One less, the count, one more. */
function Counter({
  line: l,
  text,
  wrong,
  count,
}: Props & { count: { set: (text: string) => void; step: (by: number) => void; here: () => void; next: () => void } }) {
  return (
    <span className="flex h-12 items-stretch border border-rule border-b-2 border-b-ink bg-field max-lg:col-span-2 max-lg:w-full">
      <button
        type="button"
        className="w-12 text-lg text-ink-2"
        aria-label={`One less of ${l.name}`}
        onClick={() => count.step(-1)}
      >
        −
      </button>
      <input
        value={text}
        onChange={(e) => count.set(e.target.value)}
        onFocus={() => count.here()}
        onKeyDown={(e) => {
          if (e.key !== "Enter") return;
          e.preventDefault();
          count.next();
        }}
        aria-label={`Counted ${l.name}, in ${l.unit}`}
        aria-invalid={wrong ? true : undefined}
        aria-describedby={`judged-${l.line}`}
        inputMode="decimal"
        maxLength={16}
        placeholder="0"
        className="min-w-0 flex-1 bg-transparent text-center font-mono text-lg font-semibold outline-none placeholder:text-ink-3"
      />
      <button
        type="button"
        className="w-12 text-lg text-ink-2"
        aria-label={`One more of ${l.name}`}
        onClick={() => count.step(1)}
      >
        +
      </button>
    </span>
  );
}

/** How the count compares with what is to come, in tally gates and in words. */
function Judged({ line: l, text, problem, wrong }: Props & { problem: string | undefined }) {
  const w = useWriting();
  const left = leftOfLine(l);
  const p = parseCount(text);
  const judged = judgeCount(l, text);
  const stock = p.ok && l.stockUnit && l.stockUnit !== l.unit ? toStock(purchase(p.value), factorOf(l.factor)) : null;
  const compared = judged ? judgeWords(judged, l.unit) : "";
  const known = left === 0 ? `${w.quantity(l.received)} ${l.unit} received` : compared;
  const says = p.ok ? known : p.says;
  return (
    <span id={`judged-${l.line}`} className="min-w-0 max-lg:col-span-2">
      {p.ok && p.value > 0 && <TallyGates counted={p.value} />}
      <span
        className={`block text-xs font-semibold ${wrong ? "text-signal" : judged?.kind === "as ordered" ? "text-weed" : "text-ink-2"}`}
      >
        {problem ?? says}
      </span>
      {stock !== null && stock > 0 && (
        <span className="block text-2xs text-ink-3">
          {w.quantity(stock)} {l.stockUnit} into stock
        </span>
      )}
      {left > 0 && p.ok && p.value === 0 && (
        <span className="block text-2xs text-ink-3">
          due {w.day(l.due)}
          {l.received > 0 && `, ${w.quantity(l.received)} came before`}
        </span>
      )}
    </span>
  );
}
