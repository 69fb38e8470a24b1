import { addDays, type Day, daysBetween } from "../../core/calendar/day";
import { useWriting } from "./locale";

interface RulerRow {
  label: string;
  parts: readonly { quantity: number; day: Day }[];
  /** A day on which some of it is later than it stands is in signal. */
  late?: (day: Day) => boolean;
}

const LABEL = 92;
const WIDTH = 640;
const ROW = 34;
const TOP = 24;

/** What comes on which day, row above row on one scale of days, so that parts are seen to move. Drawn by hand, as our other signs. */
export function DayRuler({ rows, wanted, title }: { rows: readonly RulerRow[]; wanted: Day; title: string }) {
  const w = useWriting();
  const all = [w.today, wanted, ...rows.flatMap((r) => r.parts.map((p) => p.day))].sort();
  const first = all[0]!;
  const last = addDays(all.at(-1)!, 1);
  const span = Math.max(6, daysBetween(first, last));
  const x = (day: Day) => LABEL + (daysBetween(first, day) / span) * (WIDTH - LABEL - 40);
  const step = Math.max(1, Math.ceil(span / 6));
  const ticks = Array.from({ length: Math.floor(span / step) + 1 }, (_, i) => addDays(first, i * step)).filter(
    // One that would not fit any more says nothing.
    (d) => x(d) <= WIDTH - 70,
  );
  const height = TOP + rows.length * ROW + 18;
  const said = rows
    .map(
      (r) =>
        `${r.label}: ${r.parts.map((p) => `${w.quantity(p.quantity)} on ${w.day(p.day)}`).join(", ") || "nothing"}`,
    )
    .join("; ");
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      role="img"
      aria-label={`${title}. ${said}; wanted by ${w.day(wanted)}`}
      className="w-full max-w-[760px] min-w-[520px] font-sans text-[11px]"
    >
      {ticks.map((d) => (
        <text key={d} x={x(d)} y={12} fill="var(--color-ink-3)" className="font-mono text-[10px]">
          {w.day(d, false)}
        </text>
      ))}
      <path d={`M${x(wanted)} ${TOP - 6}V${height - 14}`} stroke="var(--color-ink)" strokeDasharray="2 2" />
      <text x={x(wanted) + 4} y={height - 3} fill="var(--color-ink-2)">
        wanted
      </text>
      {rows.map((r, i) => {
        const y = TOP + i * ROW;
        return (
          <g key={r.label}>
            <text x={LABEL - 10} y={y + 22} textAnchor="end" fill="var(--color-ink-2)">
              {r.label}
            </text>
            <path d={`M${LABEL} ${y + 28}H${WIDTH}`} stroke="var(--color-rule)" />
            {r.parts.map((p) => {
              const late = r.late?.(p.day) ?? false;
              return (
                <g key={p.day}>
                  <rect
                    x={x(p.day)}
                    y={y + 14}
                    width={14}
                    height={14}
                    fill={late ? "var(--color-signal-2)" : "var(--color-harbour-2)"}
                    stroke={late ? "var(--color-signal)" : "var(--color-harbour)"}
                    strokeWidth="1.5"
                  />
                  <text
                    x={x(p.day) + 19}
                    y={y + 25}
                    fill={late ? "var(--color-signal)" : "var(--color-ink)"}
                    fontWeight="600"
                    className="font-mono"
                  >
                    {w.quantity(p.quantity)}
                  </text>
                </g>
              );
            })}
          </g>
        );
      })}
    </svg>
  );
}
