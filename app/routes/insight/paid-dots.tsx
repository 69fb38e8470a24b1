import { CartesianGrid, Legend, ResponsiveContainer, Scatter, ScatterChart, XAxis, YAxis } from "recharts";
import { daysBetween } from "../../../core/calendar/day";
import type { PaidWith } from "../../../server/queries/insight/paid";
import { useWriting } from "../../ui/locale";

/** Signs and inks of suppliers, told apart without colour, too. */
const SHAPES = ["circle", "square", "triangle", "diamond", "cross", "star"] as const;
const INKS = ["var(--color-harbour)", "var(--color-ink)", "var(--color-weed)", "var(--color-signal)"];

/** What a stock unit of an item cost by day, each supplier with a sign of its own. The same stands below as a table. */
export function PaidDots({ paid }: { paid: readonly PaidWith[] }) {
  const w = useWriting();
  const [first] = paid;
  if (!first) return null;
  const suppliers = [...new Set(paid.map((p) => p.supplier))];
  return (
    <div className="h-48" aria-hidden="true">
      <ResponsiveContainer width="100%" height="100%">
        <ScatterChart accessibilityLayer={false} margin={{ top: 8, right: 8, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--color-rule)" vertical={false} />
          <XAxis
            type="number"
            dataKey="x"
            domain={[0, Math.max(1, daysBetween(first.day, paid.at(-1)!.day))]}
            tickFormatter={(x: number) =>
              new Date(Date.parse(first.day) + x * 86_400_000).toLocaleDateString(w.locale, {
                month: "short",
                timeZone: "UTC",
              })
            }
            tick={{ fontSize: 11, fill: "var(--color-ink-3)" }}
            axisLine={false}
            tickLine={false}
          />
          <YAxis
            type="number"
            dataKey="y"
            width={52}
            domain={["auto", "auto"]}
            tickFormatter={(y: number) => w.price(y)}
            tick={{ fontSize: 11, fill: "var(--color-ink-3)" }}
            axisLine={false}
            tickLine={false}
          />
          <Legend wrapperStyle={{ fontSize: 11 }} />
          {suppliers.map((name, i) => (
            <Scatter
              key={name}
              name={name}
              data={paid
                .filter((p) => p.supplier === name)
                .map((p) => ({ x: daysBetween(first.day, p.day), y: p.unit }))}
              fill={INKS[i % INKS.length]}
              shape={SHAPES[i % SHAPES.length]}
              isAnimationActive={false}
            />
          ))}
        </ScatterChart>
      </ResponsiveContainer>
    </div>
  );
}
