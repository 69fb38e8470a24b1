import { type Day, parseDay } from "../../../core/calendar/day";
import { DayEntry } from "../../ui/day-entry";
import { Field } from "../../ui/field";
import { useAddress } from "../../ui/use-address";

/** The days that a page of Insight is about, both included; the address keeps them. */
export function PeriodFields({ period }: { period: { from: Day; until: Day } }) {
  const { put } = useAddress();
  return (
    <>
      <Field label="From" className="w-36">
        {(a) => <DayEntry {...a} value={period.from} onDay={(d) => parseDay(d) && put({ from: d })} />}
      </Field>
      <Field label="To" className="w-36">
        {(a) => <DayEntry {...a} value={period.until} onDay={(d) => parseDay(d) && put({ to: d })} />}
      </Field>
    </>
  );
}

/** What a page is narrowed to: pressing one takes its `part` out of the address. */
export function NarrowedTo({ parts }: { parts: readonly { part: string; of: string; name: string }[] }) {
  const { put } = useAddress();
  if (parts.length === 0) return null;
  return (
    <ul className="flex flex-wrap gap-1.5 px-4.5 pb-2.5" aria-label="Narrowed to">
      {parts.map(({ part, of, name }) => (
        <li key={part}>
          <button
            type="button"
            className="rounded-[2px] border border-ink bg-field px-2 py-[3px] text-xs"
            aria-label={`Not only ${of} ${name}`}
            onClick={() => put({ [part]: null, in: null })}
          >
            {of} <b>{name}</b> ×
          </button>
        </li>
      ))}
    </ul>
  );
}
