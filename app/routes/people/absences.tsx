import type { Day } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { SlipForm } from "../../parts/slip-form";
import { DateField } from "../../ui/day-entry";
import { RecordForm, SelectField } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";

export interface Absence {
  id: number;
  starts: Day;
  ends: Day;
  standIn: string | null;
}

/** Days on which somebody is away, and who signs for them then. */
export function Absences({
  person,
  absences,
  others,
}: {
  /** Empty for one's own. */
  person: PersonId | "";
  absences: readonly Absence[];
  others: readonly { id: PersonId; name: string }[];
}) {
  const w = useWriting();
  return (
    <SlipPart title="Away">
      {absences.length > 0 && (
        <ul className="mb-2 border border-rule bg-sheet">
          {absences.map((a) => (
            <li key={a.id} className="border-b border-rule-2 px-2.5 py-1 last:border-0">
              <span className="flex justify-between gap-3">
                <span>
                  {w.day(a.starts)}
                  {a.ends !== a.starts && ` to ${w.day(a.ends)}`}
                </span>
                <span className={a.standIn ? "" : "text-ink-3"}>
                  {a.standIn ? `${a.standIn} signs` : "nobody signs"}
                </span>
              </span>
              <SlipForm<"here"> does="here" fields={{ absence: a.id }} label="Take it away…" send="Take it away">
                <p className="text-xs">From now on they are asked as always.</p>
              </SlipForm>
            </li>
          ))}
        </ul>
      )}
      <RecordForm<"away">
        key={absences.length}
        does="away"
        fields={{ person }}
        send="Enter these days"
        className="grid grid-cols-2 gap-2"
      >
        {(fault) => (
          <>
            <DateField label="Away from" name="starts" defaultValue={w.today} problem={fault("starts")} />
            <DateField label="Until, that day too" name="ends" defaultValue={w.today} problem={fault("ends")} />
            <SelectField
              label="Who signs meanwhile"
              name="standIn"
              className="col-span-full"
              problem={fault("standIn")}
              options={[{ value: "", label: "nobody" }, ...others.map((p) => ({ value: p.id, label: p.name }))]}
            />
          </>
        )}
      </RecordForm>
    </SlipPart>
  );
}
