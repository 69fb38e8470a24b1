import type { StoreId } from "../../../core/ids";
import { DayEntry } from "../../ui/day-entry";
import { Field, problemAt } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { useWriting } from "../../ui/locale";
import type { WritingRequisition } from "./use-draft";

/** For which store and department, by when, and what for. */
export function DraftHead({
  writing,
  stores,
  departments,
  problems,
}: {
  writing: WritingRequisition;
  stores: { id: StoreId; name: string }[];
  departments: { id: number; name: string }[];
  problems: readonly { field: string; says: string }[];
}) {
  const w = useWriting();
  return (
    <div className="grid grid-cols-[150px_170px_150px_minmax(0,1fr)] gap-4 px-4.5 py-3 max-md:grid-cols-1">
      <Field label="For which store" problem={problemAt(problems, "store")}>
        {(a) => (
          <select
            {...a}
            className="entry"
            value={writing.draft.store}
            onChange={(e) => writing.set({ store: Number(e.target.value) })}
          >
            {stores.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        )}
      </Field>
      {departments.length > 0 ? (
        <SelectField
          label="For the department"
          value={writing.draft.department}
          problem={problemAt(problems, "department")}
          onChange={(e) => writing.set({ department: e.target.value })}
          options={[{ value: "", label: "one’s own" }, ...departments.map((d) => ({ value: d.id, label: d.name }))]}
        />
      ) : (
        <span />
      )}
      <Field label="Needed by" problem={problemAt(problems, "neededBy")}>
        {(a) => (
          <DayEntry
            {...a}
            value={writing.draft.neededBy}
            min={w.today}
            onDay={(neededBy) => writing.set({ neededBy })}
          />
        )}
      </Field>
      <Field
        label="What for"
        problem={problemAt(problems, "reason")}
        hint="the job, the vessel, what happens without it"
      >
        {(a) => (
          <input
            {...a}
            className="entry"
            value={writing.draft.reason}
            maxLength={500}
            onChange={(e) => writing.set({ reason: e.target.value })}
          />
        )}
      </Field>
    </div>
  );
}
