import { parseDay } from "../../../core/calendar/day";
import { type BreakdownAsked, COUNTS, DIMENSIONS, type Dimension, MEASURES } from "../../../core/insight/breakdown";
import { COUNT_WORDS, DIMENSION_WORDS, MEASURE_WORDS } from "../../../core/insight/words";
import { DayEntry } from "../../ui/day-entry";
import { Field } from "../../ui/field";
import { NarrowedTo } from "./asked-parts";

type Put = (parts: Record<string, string | null>) => void;

/** What is added up, of which days, by what; and what it is narrowed to. */
export function BreakdownControls({
  asked,
  names,
  put,
}: {
  asked: BreakdownAsked;
  /** What the values that it is narrowed to are called. */
  names: Partial<Record<Dimension, string>>;
  put: Put;
}) {
  const choose = (label: string, name: string, value: string, options: readonly { value: string; label: string }[]) => (
    <Field label={label}>
      {(a) => (
        <select {...a} className="entry w-full" value={value} onChange={(e) => put({ [name]: e.target.value || null })}>
          {options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
  const dims = DIMENSIONS.map((d) => ({ value: d, label: DIMENSION_WORDS[d] }));
  const narrowed = DIMENSIONS.filter((d) => asked.filters[d] !== undefined).map((d) => ({
    part: `is-${d}`,
    of: DIMENSION_WORDS[d],
    name: names[d] ?? "",
  }));
  return (
    <>
      <div className="grid grid-cols-2 items-end gap-3 px-4.5 pb-2.5 md:grid-cols-6">
        {choose(
          "What was",
          "of",
          asked.measure,
          MEASURES.map((m) => ({ value: m, label: MEASURE_WORDS[m] })),
        )}
        {choose(
          "Shown",
          "show",
          asked.count,
          COUNTS.map((c) => ({ value: c, label: COUNT_WORDS[c] })),
        )}
        {choose("By", "rows", asked.rows, dims)}
        {choose("And across", "columns", asked.columns ?? "", [
          { value: "", label: "nothing" },
          ...dims.filter((d) => d.value !== asked.rows),
        ])}
        <Field label="From">
          {(a) => (
            <DayEntry {...a} value={asked.from} max={asked.until} onDay={(d) => parseDay(d) && put({ from: d })} />
          )}
        </Field>
        <Field label="To">
          {(a) => <DayEntry {...a} value={asked.until} onDay={(d) => parseDay(d) && put({ to: d })} />}
        </Field>
      </div>
      <NarrowedTo parts={narrowed} />
    </>
  );
}
