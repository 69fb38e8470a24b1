import { CartesianGrid, Line, LineChart, ResponsiveContainer, XAxis, YAxis } from "recharts";
import type { StockMonth } from "../../../server/queries/insight/stock";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";

/** What it was worth at the end of each month, and what was used in it: drawn, and as a table. */
export function StockMonths({ months }: { months: readonly StockMonth[] }) {
  const w = useWriting();
  const called = (month: string, year: boolean) =>
    new Date(`${month}-01T00:00:00Z`).toLocaleDateString(w.locale, {
      month: "short",
      ...(year && { year: "numeric" }),
      timeZone: "UTC",
    });
  const tick = { fontSize: 11, fill: "var(--color-ink-3)" };
  return (
    <SlipPart title={`Worth at the end of each month, ${w.home}`}>
      <div className="h-32" aria-hidden="true">
        <ResponsiveContainer width="100%" height="100%">
          <LineChart accessibilityLayer={false} data={[...months]} margin={{ top: 6, right: 14, bottom: 0, left: 0 }}>
            <CartesianGrid stroke="var(--color-rule)" vertical={false} />
            <XAxis
              dataKey="month"
              tickFormatter={(m: string) => called(m, false)}
              tick={tick}
              axisLine={false}
              tickLine={false}
              interval={2}
            />
            <YAxis
              width={44}
              domain={[0, "auto"]}
              tickFormatter={(v: number) => w.short(v)}
              tick={tick}
              axisLine={false}
              tickLine={false}
            />
            <Line
              type="linear"
              dataKey="value"
              stroke="var(--color-ink)"
              strokeWidth={1.5}
              dot={{ r: 2, fill: "var(--color-ink)" }}
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
      <details className="text-xs">
        <summary className="cursor-pointer py-1 text-ink-2">As a table</summary>
        <table className="w-full">
          <caption className="sr-only">Worth at the end of each month, and used in it</caption>
          <thead className="text-2xs text-ink-3">
            <tr>
              <th scope="col" className="text-left font-normal">
                month
              </th>
              <th scope="col" className="text-right font-normal">
                worth
              </th>
              <th scope="col" className="text-right font-normal">
                used
              </th>
            </tr>
          </thead>
          <tbody>
            {months.toReversed().map((m) => (
              <tr key={m.month} className="border-b border-rule-2">
                <th scope="row" className="py-0.5 text-left font-normal">
                  {called(m.month, true)}
                </th>
                <td className="figure text-right">{w.money(m.value)}</td>
                <td className="figure text-right">{w.money(m.used)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </SlipPart>
  );
}
