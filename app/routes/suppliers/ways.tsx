import { shownChance } from "../../../core/suppliers/chance";
import type { LeftShort, WayOut } from "../../../core/suppliers/ways-out";
import { unitWords } from "../../../core/text";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";

type Writing = ReturnType<typeof useWriting>;

const costWords = (way: WayOut, w: Writing): string =>
  way.cost === null ? "?" : way.cost > 0 ? `+${w.money(way.cost)}` : w.money(way.cost);

/** What can be done about what an answer leaves short: one of them is chosen, the best to begin with. */
export function WaysOut({
  ways,
  short,
  chosen,
  onChoose,
}: {
  ways: readonly WayOut[];
  short: LeftShort;
  chosen: string;
  onChoose: (key: string) => void;
}) {
  const w = useWriting();
  const way = ways.find((x) => x.key === chosen);
  return (
    <>
      <SlipPart title={`Ways out of ${w.quantity(short.quantity)} ${unitWords(short.quantity, short.unit)} short`}>
        <div role="radiogroup" aria-label="Ways out" className="border border-rule bg-sheet">
          {ways.map((x) => {
            const on = x.key === chosen;
            return (
              <label
                key={x.key}
                className={`flex cursor-pointer justify-between gap-3 border-b border-rule-2 px-2.5 py-1.5 last:border-0 has-focus-visible:outline-2 ${on ? "bg-ink text-sheet" : ""}`}
              >
                <input type="radio" name="way" className="sr-only" checked={on} onChange={() => onChoose(x.key)} />
                <span>
                  <b className="block">{x.what}</b>
                  <span className={`block text-xs ${on ? "" : "text-ink-2"}`}>{x.note}</span>
                </span>
                <span className="figure shrink-0 text-right">
                  <b className="block">{costWords(x, w)}</b>
                  <span className={`block text-xs ${on ? "" : x.inTime === false ? "text-signal" : "text-ink-2"}`}>
                    {[x.day ? w.day(x.day, false) : "?", x.chance !== null && w.percent(shownChance(x.chance))]
                      .filter(Boolean)
                      .join(" · ")}
                  </span>
                </span>
              </label>
            );
          })}
        </div>
      </SlipPart>
      {way?.sum && (
        <SlipPart title={`What it costs, ${w.home}`}>
          <SumSheet sum={way.sum} heading={false} />
        </SlipPart>
      )}
    </>
  );
}
