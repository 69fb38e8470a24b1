import { useState } from "react";
import type { OrderLetter } from "../../../server/queries/orders/letters";
import { Button } from "../../ui/button";
import { Field, problemAt, TextField } from "../../ui/field";

/** The fields of the e-mail that brings an order: who gets it and, where it is to be another, what it says. */
export function WhoGetsIt({
  letter,
  problems,
}: {
  letter: OrderLetter;
  problems?: readonly { field: string; says: string }[];
}) {
  const [own, setOwn] = useState(false);
  return (
    <div className="flex flex-col gap-2">
      <input type="hidden" name="chosen" value="yes" />
      <fieldset>
        <legend className="mb-1 text-xs font-semibold text-ink-2">Who gets it</legend>
        {letter.people.map((p) => (
          <label key={p.id} className="flex min-h-6 items-baseline gap-2">
            <input type="checkbox" name="to[]" value={p.id} defaultChecked={p.usual} className="accent-harbour" />
            <span className="min-w-0">
              {p.name || p.mail}{" "}
              <span className="text-xs text-ink-3">{[p.title, p.name && p.mail].filter(Boolean).join(", ")}</span>
            </span>
          </label>
        ))}
        {problemAt(problems, "to") && (
          <p role="alert" className="text-xs font-semibold text-signal">
            {problemAt(problems, "to")}
          </p>
        )}
      </fieldset>
      {own ? (
        <>
          <TextField
            label="Subject"
            name="subject"
            defaultValue={letter.subject}
            maxLength={150}
            problem={problemAt(problems, "subject")}
          />
          <Field label="Message" problem={problemAt(problems, "message")}>
            {(a) => (
              <textarea
                {...a}
                name="message"
                rows={11}
                maxLength={4000}
                className="entry"
                defaultValue={letter.message}
              />
            )}
          </Field>
        </>
      ) : (
        <p>
          <Button look="plain" className="min-h-6 py-0 text-xs font-normal" onClick={() => setOwn(true)}>
            Change the message for this once
          </Button>
        </p>
      )}
    </div>
  );
}
