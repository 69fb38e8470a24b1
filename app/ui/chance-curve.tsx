import { useWriting } from "./locale";

const W = 356;
const H = 118;
const LEFT = 6;
const TOP = 26;
const BOTTOM = 18;

/**
 * How much may be used before goods come, as a curve: what lies right of a reorder point is the chance of running out.
 * Drawn by hand, as our other signs; the figures are estimates in stock units.
 */
export function ChanceCurve({
  mean,
  deviation,
  set,
  suggested,
  unit,
}: {
  mean: number;
  deviation: number;
  set: number;
  suggested: number;
  unit: string;
}) {
  const w = useWriting();
  const spread = deviation || Math.max(mean * 0.02, 0.01);
  const now = set / 10_000;
  const better = suggested / 10_000;
  const points = [now, better];
  const low = Math.max(0, Math.min(mean - 3.4 * spread, ...points));
  const high = Math.max(mean + 3.4 * spread, ...points) * 1.02 || 1;
  const x = (n: number) => LEFT + ((n - low) / (high - low)) * (W - LEFT - 6);
  const y = (n: number) => H - BOTTOM - Math.exp(-((n - mean) ** 2) / (2 * spread ** 2)) * (H - TOP - BOTTOM);
  const line = (from: number) => {
    const steps = 90;
    return Array.from({ length: steps + 1 }, (_, i) => from + ((high - from) * i) / steps)
      .map((n, i) => `${i ? "L" : "M"}${x(n).toFixed(1)} ${y(n).toFixed(1)}`)
      .join("");
  };
  const mark = (n: number, word: string, colour: string, above: number, anchor: "start" | "end") => (
    <>
      <path d={`M${x(n)} ${TOP - 4}V${H - BOTTOM}`} stroke={colour} strokeWidth="2" />
      <text x={x(n) + (anchor === "start" ? 4 : -4)} y={above} textAnchor={anchor} fill={colour} fontWeight="600">
        {word}
      </text>
    </>
  );
  const side = (n: number) => (x(n) > W * 0.62 ? "end" : "start");
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`Used before goods come: about ${w.quantity(Math.round(mean * 10_000))} ${unit}; set ${w.quantity(set)}, suggested ${w.quantity(suggested)}`}
      className="w-full shrink-0 font-sans text-[10.5px]"
    >
      <path
        d={`${line(Math.max(low, now))}L${x(high)} ${H - BOTTOM}L${x(Math.max(low, now))} ${H - BOTTOM}Z`}
        fill="var(--color-signal-2)"
      />
      <path d={line(low)} fill="none" stroke="var(--color-ink)" strokeWidth="1.6" />
      <path d={`M${LEFT} ${H - BOTTOM}H${W - 6}`} stroke="var(--color-ink-3)" />
      {mark(now, `set ${w.quantity(set)}`, "var(--color-ink)", 10, side(now))}
      {mark(better, `suggested ${w.quantity(suggested)}`, "var(--color-harbour)", 21, side(better))}
      <text x={LEFT} y={H - 4} fill="var(--color-ink-3)">
        {w.quantity(Math.round(low * 10) * 1_000)}
      </text>
      <text x={W - 6} y={H - 4} textAnchor="end" fill="var(--color-ink-3)">
        {`${w.quantity(Math.round(high * 10) * 1_000)} ${unit}`}
      </text>
    </svg>
  );
}
