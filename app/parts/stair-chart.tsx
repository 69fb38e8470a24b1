import { useWriting } from "../ui/locale";

/** One column of the stair: from where to where, and what it is called. */
interface Column {
  label: string;
  from: number;
  to: number;
  look: "whole" | "more" | "less";
}

/** A difference taken apart: what it was, what came to it step by step, what it is; minor units of one currency. */
export interface Steps {
  from: { label: string; minor: number };
  steps: readonly { label: string; minor: number }[];
  to: { label: string; minor: number };
}

function columnsOf({ from, steps, to }: Steps): Column[] {
  let at = from.minor;
  return [
    { label: from.label, from: 0, to: from.minor, look: "whole" },
    ...steps.map((s): Column => {
      const was = at;
      at += s.minor;
      return { label: s.label, from: was, to: at, look: s.minor > 0 ? "more" : "less" };
    }),
    { label: to.label, from: 0, to: to.minor, look: "whole" },
  ];
}

const HEIGHT = 128;

/** From where to where the columns reach: where all steps are small beside the whole, its foot is cut off, and says so. */
function scaleOf({ from, steps, to }: Steps): { foot: number; most: number } {
  let at = from.minor;
  const levels = [at, to.minor, ...steps.map((s) => (at += s.minor))];
  const most = Math.max(1, ...levels);
  const least = Math.min(...levels);
  const range = most - least;
  return least > 0 && range < most * 0.4
    ? { foot: Math.max(0, least - Math.max(1, range) * 0.6), most }
    : { foot: 0, most };
}

const LOOKS = { whole: "bg-ink", more: "bg-signal", less: "bg-weed" };

/** From one figure to another, one step for each cause; the figures are on the steps, and add up. */
export function StairChart({ caption, currency, ...stair }: Steps & { caption: string; currency: string }) {
  const w = useWriting();
  const columns = columnsOf(stair);
  const { foot, most } = scaleOf(stair);
  const y = (minor: number) => Math.round((Math.max(0, minor - foot) / (most - foot)) * HEIGHT);
  return (
    <figure className="border-t-2 border-ink px-4.5 pt-2.5 pb-3">
      <figcaption className="mb-1 text-xs font-semibold text-ink-2">
        {caption}
        {foot > 0 && (
          <span className="font-normal"> · columns are cut off at {w.money(Math.round(foot), currency)}</span>
        )}
      </figcaption>
      <ol className="flex items-start">
        {columns.map((c, i) => (
          <li key={`${i}-${c.label}`} className="flex min-w-0 flex-1 flex-col items-center">
            <div className="relative w-full border-b-2 border-ink" style={{ height: HEIGHT + 22 }}>
              <div
                className={`absolute inset-x-[18%] ${LOOKS[c.look]}`}
                style={{ bottom: Math.min(y(c.from), y(c.to)), height: Math.max(2, Math.abs(y(c.to) - y(c.from))) }}
              />
              {c.look === "whole" && foot > 0 && (
                <div className="absolute inset-x-[16%] bottom-3 h-1 -skew-y-2 bg-sheet" />
              )}
              {i < columns.length - 1 && (
                <div
                  className="absolute right-[-18%] left-[82%] border-t border-dashed border-ink-3"
                  style={{ bottom: y(c.to) }}
                />
              )}
              <span
                className={`figure absolute inset-x-0 text-center text-xs ${c.look === "whole" ? "font-semibold" : c.look === "more" ? "text-signal" : "text-weed"}`}
                style={{ bottom: Math.max(y(c.from), y(c.to)) + 3 }}
              >
                {c.look === "whole"
                  ? w.money(c.to, currency)
                  : `${c.to > c.from ? "+" : ""}${w.money(c.to - c.from, currency)}`}
              </span>
            </div>
            <span className="mt-1 px-1 text-center text-2xs leading-tight text-ink-2">{c.label}</span>
          </li>
        ))}
      </ol>
    </figure>
  );
}
