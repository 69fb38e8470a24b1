import type { RuleFault } from "../../../core/signoff/faults";
import type { Ladder, Rung } from "../../../core/signoff/rulebook";
import type { People } from "../../../core/signoff/way";
import type { RuleChoices } from "../../../server/queries/signoff/choices";
import { useWriting } from "../../ui/locale";
import { brief, narrowedTo, papersOf, signerWords } from "./rule-words";
import type { Scale } from "./scale";

const HEIGHT = 560;
/** Where the rung for whatever is above stands, and where the scale begins and ends. */
const ABOVE = 14;
const TOP = 34;
const LABEL = 31;

/** Ladders side by side on one scale of amounts: who signs stands at the rung, what nobody covers is a gap. */
export function LadderChart({
  ladders,
  faults,
  scale,
  amount,
  lit,
  chosen,
  people,
  choices,
  onChoose,
}: {
  ladders: readonly Ladder[];
  faults: readonly RuleFault[];
  scale: Scale;
  amount: number;
  /** The ladder that takes the amount. */
  lit: number | null;
  chosen: number | null;
  people: People;
  choices: RuleChoices;
  onChoose: (ladder: number) => void;
}) {
  const w = useWriting();
  const y = (minor: number) => TOP + (1 - scale.at(minor)) * (HEIGHT - TOP);
  return (
    <div className="relative min-h-0 flex-1 overflow-auto px-4.5 pb-4">
      <div className="relative flex" style={{ minWidth: 92 + ladders.length * 190 }}>
        <div
          aria-hidden="true"
          className="pointer-events-none absolute inset-x-0 top-[64px]"
          style={{ height: HEIGHT }}
        >
          {scale.lines.map((n) => (
            <div key={n} className="absolute inset-x-0 border-t border-rule-2" style={{ top: y(n) }}>
              <span className="figure absolute top-0.5 left-0 text-xs text-ink-3">{brief(w.money(n))}</span>
            </div>
          ))}
          <div className="absolute inset-x-0 border-t-2 border-lamp" style={{ top: y(amount) - 1 }}>
            <span className="figure absolute -top-[11px] left-0 bg-lamp px-2 font-semibold text-mast">
              {brief(w.money(amount))}
            </span>
          </div>
        </div>
        <div className="w-[92px] shrink-0" />
        {ladders.map((l, i) => (
          <section key={l.id} aria-label={`${l.name}, ${i + 1} of ${ladders.length}`} className="w-[190px] shrink-0">
            <button
              type="button"
              aria-pressed={l.id === chosen}
              onClick={() => onChoose(l.id)}
              className={`block h-[58px] w-[182px] overflow-hidden border-b-2 px-1.5 text-left leading-tight ${l.id === chosen ? "border-ink bg-here" : "border-transparent hover:bg-band"}`}
            >
              <span className="block truncate font-display text-base font-bold">
                {i + 1}. {l.name}
              </span>
              <span className="block truncate text-xs text-ink-3">{papersOf(l)}</span>
              <span className="block truncate text-xs text-ink-3">{narrowedTo(l, choices)}</span>
            </button>
            <div className="relative mt-1.5" style={{ height: HEIGHT }}>
              <Rails ladder={l} lit={l.id === lit} y={y} />
              <Labels
                rungs={l.rungs}
                bad={new Set(faults.filter((f) => f.ladder === l.id && f.bars).map((f) => f.rung))}
                people={people}
                y={y}
              />
            </div>
          </section>
        ))}
      </div>
    </div>
  );
}

const at = (r: Rung, y: (minor: number) => number) => (r.upTo === null ? ABOVE : y(r.upTo));

function Rails({ ladder: l, lit, y }: { ladder: Ladder; lit: boolean; y: (minor: number) => number }) {
  const last = l.rungs.at(-1);
  const gap = !last || last.upTo !== null ? (last?.upTo ?? 0) : null;
  const top = gap === null ? 0 : y(gap);
  const nobody = l.rungs[0]?.who === null && l.rungs[0].upTo !== null ? y(l.rungs[0].upTo) : null;
  const colour = lit ? "border-lamp" : "border-ink";
  const bar = lit ? "bg-lamp" : "bg-ink";
  return (
    <div aria-hidden="true">
      {gap !== null && (
        <div
          className="absolute left-[-3px] flex w-[60px] items-center justify-center border border-dashed border-signal bg-signal-2 text-xs text-signal"
          style={{ top: 0, height: Math.max(top - 4, 18) }}
        >
          nobody
        </div>
      )}
      <div className={`absolute w-[54px] border-x-[3px] ${colour}`} style={{ top, bottom: 0 }} />
      {nobody !== null && (
        <div
          className="absolute left-[3px] w-[48px]"
          style={{
            top: nobody,
            bottom: 0,
            background:
              "repeating-linear-gradient(45deg, transparent 0 5px, color-mix(in srgb, var(--color-harbour) 26%, transparent) 5px 6.5px)",
          }}
        />
      )}
      {l.rungs.map((r, i) => (
        <div key={i} className={`absolute left-[2px] h-1 w-[50px] ${bar}`} style={{ top: at(r, y) - 2 }} />
      ))}
    </div>
  );
}

/** Who signs and up to what, beside each rung: the lowest first, and none over another. */
function Labels({
  rungs,
  bad,
  people,
  y,
}: {
  rungs: readonly Rung[];
  bad: ReadonlySet<number | null>;
  people: People;
  y: (minor: number) => number;
}) {
  const w = useWriting();
  let below = HEIGHT + LABEL;
  const places = rungs.map((r) => {
    below = Math.min(at(r, y) - 12, below - LABEL);
    return below;
  });
  return (
    <ol>
      {rungs.map((r, i) => (
        <li
          key={i}
          className={`absolute left-[60px] w-fit max-w-[124px] bg-sheet px-0.5 leading-tight ${bad.has(i) ? "text-signal" : ""}`}
          style={{ top: places[i] }}
        >
          <span className="block truncate">{r.who ? signerWords(r.who, people) : "nobody"}</span>
          <span className={`block truncate text-xs ${bad.has(i) ? "" : "text-ink-3"}`}>
            {r.upTo === null ? "above" : `${r.who ? "to" : "up to"} ${brief(w.money(r.upTo))}`}
            {r.who && `, ${r.hours} h`}
          </span>
        </li>
      ))}
    </ol>
  );
}
