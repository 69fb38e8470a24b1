import { daysBetween, toDay } from "../../core/calendar/day";
import { useWriting } from "./locale";

interface Props {
  line: { starts: string; ends: string; committed: number; committedValue: number; limits: string };
  calls: readonly { day: string; quantity: number; value: number }[];
  /** The day on which nothing is left at the pace so far. */
  runsOut: string | null;
  label: string;
  /** In pixels, as wide as it will be drawn: its words keep their size. */
  width?: number;
}

const H = 118;
const LEFT = 8;
const TOP = 14;
const FLOOR = 92;

/** What is left of a blanket line from its first day to its last: steps down, the even pace beside it, and where it leads. */
export function BurnLine({ line, calls, runsOut, label, width: W = 520 }: Props) {
  const w = useWriting();
  const whole = line.limits === "value" ? line.committedValue : line.committed;
  const first = toDay(line.starts);
  const last = toDay(line.ends);
  const days = Math.max(1, daysBetween(first, last));
  const x = (day: string) =>
    LEFT + (Math.max(0, Math.min(days, daysBetween(first, toDay(day)))) / days) * (W - LEFT - 8);
  const y = (left: number) => TOP + (1 - Math.max(0, left) / (whole || 1)) * (FLOOR - TOP);
  const now = [w.today, first, last].sort()[1]!; // the middle one: today, within its time
  let left = whole;
  let path = `M${x(first)} ${y(whole)}`;
  for (const c of [...calls].sort((a, b) => (a.day < b.day ? -1 : 1))) {
    left -= line.limits === "value" ? c.value : c.quantity;
    path += `H${x(c.day)}V${y(left)}`;
  }
  path += `H${x(now)}`;
  const early = runsOut !== null && runsOut < last;
  const pace = runsOut
    ? early
      ? `M${x(now)} ${y(left)}L${x(runsOut)} ${FLOOR}`
      : `M${x(now)} ${y(left)}L${x(last)} ${y(left - ((whole - left) * daysBetween(toDay(now), last)) / Math.max(1, daysBetween(first, toDay(now))))}`
    : `M${x(now)} ${y(left)}H${x(last)}`;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`${label}: ${Math.round((left / (whole || 1)) * 100)} % left on ${w.day(now)}; ${runsOut ? `at this pace used up on ${w.day(runsOut)}` : "nothing called off yet"}; ends ${w.day(last)}`}
      className="w-full font-sans text-[10.5px]"
    >
      <path d={`M${LEFT} ${FLOOR}H${W}`} stroke="var(--color-ink-3)" />
      <path d={`M${x(first)} ${y(whole)}L${x(last)} ${FLOOR}`} stroke="var(--color-rule)" strokeDasharray="3 3" />
      <path
        d={pace}
        stroke={early ? "var(--color-signal)" : "var(--color-ink-3)"}
        strokeWidth="1.6"
        strokeDasharray="2 3"
        fill="none"
      />
      <path d={path} fill="none" stroke="var(--color-ink)" strokeWidth="2" />
      <path d={`M${x(now)} ${TOP - 4}V${FLOOR + 4}`} stroke="var(--color-ink-3)" strokeDasharray="1 2" />
      <text x={LEFT} y={H - 8} fill="var(--color-ink-3)">
        {w.day(first, false)}
      </text>
      <text x={x(now)} y={TOP - 5} textAnchor={x(now) > W - 60 ? "end" : "middle"} fill="var(--color-ink-2)">
        {now === w.today ? "today" : ""}
      </text>
      {early && (
        <text
          x={x(runsOut)}
          y={H - 8}
          textAnchor={x(runsOut) > W - 120 ? "end" : "middle"}
          fill="var(--color-signal)"
          fontWeight="600"
        >
          out {w.day(runsOut, false)}
        </text>
      )}
      {!(early && x(runsOut) > W - 120) && (
        <text x={W - 6} y={H - 8} textAnchor="end" fill="var(--color-ink-3)">
          {w.day(last, false)}
        </text>
      )}
    </svg>
  );
}
