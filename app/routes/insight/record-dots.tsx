import { useNavigate } from "react-router";
import {
  CartesianGrid,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { daysBetween } from "../../../core/calendar/day";
import { daysLate, inTime } from "../../../core/insight/record";
import { count } from "../../../core/text";
import type { RecordLoad } from "../../../server/queries/insight/record-facts";
import { useWriting } from "../../ui/locale";

interface Dot {
  x: number;
  y: number;
  load: RecordLoad;
}

/** What a load says: its papers, its day, how late. */
const says = ({ load, y }: Dot) =>
  `${load.number}, ${load.name}: ${y === 0 ? "to the day" : `${count(Math.abs(y), "day")} ${y > 0 ? "late" : "early"}`}`;

/** Loads as dots by day: how many days after the day that was promised, or asked for where none was; each opens its paper. */
export function RecordDots({ loads, from, until }: { loads: readonly RecordLoad[]; from: string; until: string }) {
  const w = useWriting();
  const navigate = useNavigate();
  const start = from as RecordLoad["day"]; // a day of the address, read by the loader
  const dots = loads.map(
    (load): Dot => ({
      x: daysBetween(start, load.day),
      y: daysLate(load, "promised") ?? daysLate(load, "requested")!,
      load,
    }),
  );
  const late = dots.filter((d) => (inTime(d.load, "promised") ?? inTime(d.load, "requested")) === false);
  const good = dots.filter((d) => !late.includes(d));
  const last = daysBetween(start, until as RecordLoad["day"]); // as above
  const months = monthTicks(from, last);
  const month = (x: number) =>
    new Date(Date.parse(from) + x * 86_400_000).toLocaleDateString(w.locale, { month: "short", timeZone: "UTC" });
  const open = (d: unknown) => {
    const dot = d as { payload?: Dot }; // as the chart hands it on
    if (dot.payload) void navigate(`/receipts/${dot.payload.load.receipt}`);
  };
  return (
    <figure className="px-4.5 pb-2">
      <figcaption className="text-xs font-semibold text-ink-2">
        Days after the day they promised, or else we asked for; each load a dot
      </figcaption>
      <div className="h-44" aria-hidden="true">
        <ResponsiveContainer width="100%" height="100%">
          <ScatterChart accessibilityLayer={false} margin={{ top: 8, right: 4, bottom: 0, left: 0 }}>
            <CartesianGrid stroke="var(--color-rule-2)" vertical={false} />
            <XAxis
              type="number"
              dataKey="x"
              domain={[0, last]}
              ticks={months}
              tickFormatter={month}
              tick={{ fontSize: 11, fill: "var(--color-ink-3)" }}
              axisLine={false}
              tickLine={false}
            />
            <YAxis
              type="number"
              dataKey="y"
              width={34}
              allowDecimals={false}
              domain={[(least: number) => Math.min(-2, least), (most: number) => Math.max(2, most)]}
              tickFormatter={(y: number) => (y > 0 ? `+${y}` : y === 0 ? "0" : `−${-y}`)}
              tick={{ fontSize: 11, fill: "var(--color-ink-3)" }}
              axisLine={false}
              tickLine={false}
            />
            <ReferenceArea
              y1={-100}
              y2={Math.min(...loads.map((l) => l.tolerated))}
              fill="var(--color-here)"
              fillOpacity={0.6}
              ifOverflow="hidden"
            />
            <ReferenceLine y={0} stroke="var(--color-ink)" />
            <Tooltip
              cursor={false}
              isAnimationActive={false}
              content={({ payload }) => {
                const dot = payload?.[0]?.payload as Dot | undefined; // one of ours
                return dot ? (
                  <p className="border border-ink bg-sheet px-2 py-1 text-xs">
                    {says(dot)}, {w.day(dot.load.day, false)}
                  </p>
                ) : null;
              }}
            />
            <Scatter
              data={good}
              fill="var(--color-harbour)"
              isAnimationActive={false}
              onClick={open}
              cursor="pointer"
            />
            <Scatter data={late} fill="var(--color-signal)" isAnimationActive={false} onClick={open} cursor="pointer" />
          </ScatterChart>
        </ResponsiveContainer>
      </div>
      <p className="text-2xs text-ink-3">
        {count(loads.length, "load")}: {good.length} in time, {late.length} late, tolerance counted. They stand one by
        one at the figures.
      </p>
    </figure>
  );
}

/** The first days of months, as days after the first; every second one where there are many. */
function monthTicks(from: string, last: number): number[] {
  const ticks: number[] = [];
  const at = new Date(`${from.slice(0, 7)}-01T00:00:00Z`);
  for (;;) {
    const x = Math.round((at.getTime() - Date.parse(from)) / 86_400_000);
    if (x > last) break;
    if (x >= 0) ticks.push(x);
    at.setUTCMonth(at.getUTCMonth() + 1);
  }
  return ticks.length > 14 ? ticks.filter((_, i) => i % 3 === 0) : ticks;
}
