import type { OpenLine } from "../../../server/queries/receiving/open-count";
import { useWriting } from "../../ui/locale";
import { leftOfLine } from "./counting";

/** So many orders are named. */
const MOST = 40;

/** What should come soon, as this device knows it: also without a connection. */
export function WorkList({ lines, at }: { lines: readonly OpenLine[]; at: string }) {
  const w = useWriting();
  const orders = [...new Set(lines.map((l) => l.number))].slice(0, MOST);
  if (orders.length === 0) return null;
  return (
    <section aria-label="What should come" className="px-4.5 pb-6">
      <h2 className="mb-1 text-sm font-bold">
        What should come <span className="text-xs font-normal text-ink-3">as of {w.moment(at)}</span>
      </h2>
      <ul className="border-t border-rule">
        {orders.map((number) => {
          const of = lines.filter((l) => l.number === number);
          const first = of[0]!;
          return (
            <li key={number} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule-2 py-1.5">
              <b className="min-w-40">{first.supplierName}</b>
              <span className="code">{number}</span>
              <span className={`text-xs ${first.due < w.today ? "font-semibold text-signal" : "text-ink-2"}`}>
                {w.day(first.due)}
              </span>
              <span className="min-w-0 text-xs text-ink-2">
                {of
                  .slice(0, 3)
                  .map((l) => `${w.quantity(leftOfLine(l))} ${l.unit} ${l.name}`)
                  .join("; ")}
                {of.length > 3 && `; and ${of.length - 3} more`}
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
