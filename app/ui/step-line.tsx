import { daysBetween, toDay } from "../../core/calendar/day";
import { useWriting } from "./locale";

interface Arrival {
  day: string;
  quantity: number;
  label: string;
  /** Its promised day has passed; it may well not come. */
  doubtful: boolean;
}
interface Props {
  levels: { day: string; available: number }[];
  last: string;
  reorderPoint: number | null;
  /** What is expected to come. */
  arrivals?: Arrival[];
  /** The day on which it is needed. */
  needed?: string | null;
  /** The day the proposed quantity arrives, and how much it adds. */
  lands: { day: string; adds: number } | null;
  unit: string;
}

const W = 356;
const H = 132;
const LEFT = 36;
const TOP = 16;
const BOTTOM = 30;

/** Stock to come as a step line, against the reorder point, with what is proposed. Drawn by hand: it is our own sign. */
export function StepLine({ levels, last, reorderPoint, arrivals = [], needed = null, lands, unit }: Props) {
  const w = useWriting();
  const first = toDay(levels[0]!.day);
  const days = Math.max(1, daysBetween(first, toDay(last)));
  const landed = lands ? withArrival(levels, lands) : levels;
  const values = [...landed.map((l) => l.available), ...levels.map((l) => l.available), reorderPoint ?? 0, 0];
  const most = Math.max(...values) * 1.08 || 1;
  const least = Math.min(...values);
  const x = (day: string) =>
    LEFT + (Math.max(0, Math.min(days, daysBetween(first, toDay(day)))) / days) * (W - LEFT - 4);
  const y = (n: number) => TOP + (1 - (n - least) / (most - least)) * (H - TOP - BOTTOM);
  const path = (list: { day: string; available: number }[]) =>
    list.reduce((d, l, i) => (i ? `${d}H${x(l.day)}V${y(l.available)}` : `M${x(l.day)} ${y(l.available)}`), "") +
    `H${x(last)}`;
  const lowest = levels.reduce((a, b) => (b.available < a.available ? b : a));
  const label = [
    `Stock from ${w.day(first)} to ${w.day(last)}: lowest ${w.quantity(lowest.available)} ${unit} on ${w.day(lowest.day)}`,
    reorderPoint === null ? "" : `reorder point ${w.quantity(reorderPoint)}`,
    ...arrivals.map(
      (a) => `${w.quantity(a.quantity)} on ${w.day(a.day)} by ${a.label}${a.doubtful ? ", doubtful" : ""}`,
    ),
    needed ? `needed ${w.day(needed)}` : "",
    lands ? `proposed quantity arrives ${w.day(lands.day)}` : "",
  ]
    .filter(Boolean)
    .join(", ");
  const landing = lands ? x(lands.day) : 0;
  const floor = H - BOTTOM;
  return (
    <svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={label} className="w-full shrink-0 font-sans text-[10.5px]">
      <path d={`M${LEFT} ${y(0)}H${W}`} stroke="var(--color-ink-3)" strokeWidth="1" />
      <text x={LEFT - 4} y={y(0) + 4} textAnchor="end" fill="var(--color-ink-3)">
        0
      </text>
      {reorderPoint !== null && reorderPoint > 0 && (
        <>
          <path d={`M${LEFT} ${y(reorderPoint)}H${W}`} stroke="var(--color-signal)" strokeDasharray="3 3" />
          <text x={W - 2} y={y(reorderPoint) - 4} textAnchor="end" fill="var(--color-signal)">
            reorder point {w.quantity(reorderPoint)}
          </text>
        </>
      )}
      {lands && (
        <path d={path(landed)} fill="none" stroke="var(--color-harbour)" strokeWidth="2" strokeDasharray="2 3" />
      )}
      <path d={path(levels)} fill="none" stroke="var(--color-ink)" strokeWidth="2" />
      {arrivals.map((a, i) => (
        <path
          key={i}
          d={`M${x(a.day) - 4} ${floor + 10}h8l-4 -7z`}
          fill={a.doubtful ? "var(--color-sheet)" : "var(--color-harbour)"}
          stroke={a.doubtful ? "var(--color-signal)" : "var(--color-harbour)"}
          strokeWidth="1.3"
        />
      ))}
      {needed && (
        <path
          d={`M${x(needed)} ${TOP}V${floor + 2}`}
          stroke={lands && lands.day > needed ? "var(--color-signal)" : "var(--color-ink-3)"}
          strokeWidth="1"
          strokeDasharray="1 2"
        />
      )}
      {lands && (
        <text
          x={landing > W / 2 ? landing - 5 : landing + 5}
          y={TOP - 5}
          textAnchor={landing > W / 2 ? "end" : "start"}
          fill="var(--color-harbour)"
          fontWeight="600"
        >
          lands {w.day(lands.day, false)}
        </text>
      )}
      <text x={LEFT} y={H - 4} fill="var(--color-ink-3)">
        {w.today === first ? "today" : w.day(first, false)}
      </text>
      {needed && x(needed) > LEFT + 60 && x(needed) < W - 90 && (
        <text x={x(needed)} y={H - 4} textAnchor="middle" fill="var(--color-ink-2)">
          needed {w.day(needed, false)}
        </text>
      )}
      <text x={W} y={H - 4} textAnchor="end" fill="var(--color-ink-3)">
        {w.day(last, false)}
      </text>
      <text x={LEFT - 4} y={TOP + 8} textAnchor="end" fill="var(--color-ink-3)">
        {w.quantity(Math.round(most / 1.08 / 10_000) * 10_000)}
      </text>
    </svg>
  );
}

function withArrival(levels: Props["levels"], lands: { day: string; adds: number }) {
  const before = levels.filter((l) => l.day < lands.day);
  const at = levels.findLast((l) => l.day <= lands.day) ?? levels[0]!;
  const after = levels.filter((l) => l.day > lands.day).map((l) => ({ ...l, available: l.available + lands.adds }));
  return [...before, { day: lands.day, available: at.available + lands.adds }, ...after];
}
