import type { PersonId } from "../../../core/ids";
import type { Paper } from "../../../core/signoff/papers";
import { SlipForm } from "../../parts/slip-form";
import { Field } from "../../ui/field";
import { SelectField } from "../../ui/form";
import type { SigningWord } from "./acts";

/** A paper that waits for this person. */
export interface WaitingPaper {
  paper: Paper;
  id: number;
  version: number;
}

/** What else may be done with a paper than sign it: each opens where it is asked for. */
export function SignActs({
  waiting,
  others,
}: {
  waiting: WaitingPaper;
  others: readonly { id: PersonId; name: string }[];
}) {
  const fields = { ...waiting };
  return (
    <div className="flex flex-wrap gap-x-5 gap-y-1">
      <SlipForm<SigningWord> does="send back" fields={fields} label="Send it back…" send="Send back">
        <Field label="Why, so that the writer knows what to change">
          {(a) => <textarea {...a} name="reason" rows={3} maxLength={500} className="entry" />}
        </Field>
      </SlipForm>
      <SlipForm<SigningWord> does="question" fields={fields} label="Ask the writer…" send="Ask">
        <Field label="Your question" hint="The paper waits on, and so do the hours.">
          {(a) => <textarea {...a} name="text" rows={2} maxLength={500} className="entry" />}
        </Field>
      </SlipForm>
      {others.length > 0 && (
        <SlipForm<SigningWord> does="hand over" fields={fields} label="Hand it over…" send="Hand it over">
          <SelectField
            label="Who signs instead"
            name="to"
            options={others.map((p) => ({ value: p.id, label: p.name }))}
          />
        </SlipForm>
      )}
    </div>
  );
}
