import { daysBetween, toDay } from "../../core/calendar/day";
import { useWriting } from "./locale";

interface Dot {
  day: string;
  /** For one stock unit, home currency, millionths. */
  home: number;
  own: boolean;
  label: string;
}

const W = 356;
const H = 84;
const LEFT = 44;
const FLOOR = 66;

/** Prices paid over time: ink for this supplier, hollow for the others. Drawn by hand: it is our own sign. */
export function PriceDots({ dots, unit }: { dots: readonly Dot[]; unit: string }) {
  const w = useWriting();
  const price = (millionths: number) => w.money(Math.round(millionths / 10_000));
  if (dots.length < 2) return null;
  const sorted = [...dots].sort((a, b) => (a.day < b.day ? -1 : 1));
  const first = toDay(sorted[0]!.day);
  const days = Math.max(1, daysBetween(first, toDay(sorted.at(-1)!.day)));
  const most = Math.max(...dots.map((d) => d.home));
  const least = Math.min(...dots.map((d) => d.home));
  const span = most - least || most || 1;
  const x = (d: Dot) => LEFT + (daysBetween(first, toDay(d.day)) / days) * (W - LEFT - 8);
  const y = (d: Dot) => 10 + (1 - (most === least ? 0.5 : (d.home - least) / span)) * (FLOOR - 20);
  const own = sorted.filter((d) => d.own);
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`Paid for one ${unit}, from ${price(least)} to ${price(most)}: ${sorted.map((d) => `${price(d.home)} on ${w.day(d.day)}, ${d.label}`).join("; ")}`}
      className="w-full font-sans text-[10.5px]"
    >
      <path d={`M${LEFT - 6} ${FLOOR}H${W}`} stroke="var(--color-rule)" />
      {own.length > 1 && (
        <path
          d={own.map((d, i) => `${i ? "L" : "M"}${x(d)} ${y(d)}`).join("")}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1.2"
        />
      )}
      {sorted.map((d, i) => (
        <circle
          key={i}
          cx={x(d)}
          cy={y(d)}
          r="3"
          fill={d.own ? "var(--color-ink)" : "var(--color-sheet)"}
          stroke="var(--color-ink)"
          strokeWidth="1.2"
        />
      ))}
      <text x={LEFT - 10} y={16} textAnchor="end" fill="var(--color-ink-3)">
        {price(most)}
      </text>
      {most !== least && (
        <text x={LEFT - 10} y={FLOOR - 6} textAnchor="end" fill="var(--color-ink-3)">
          {price(least)}
        </text>
      )}
      <text x={LEFT - 6} y={H - 4} fill="var(--color-ink-3)">
        {w.day(first, false)}
      </text>
      <text x={W} y={H - 4} textAnchor="end" fill="var(--color-ink-3)">
        {w.day(sorted.at(-1)!.day, false)}
      </text>
    </svg>
  );
}
