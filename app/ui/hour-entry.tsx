import { useState } from "react";
import { hourInField, typedHour } from "../../core/calendar/typed-hour";
import { Field } from "./field";

/** An hour of the day with its label, typed as people do (7, 730, 7:30, 7.30 pm); its name carries HH:MM. */
export function HourField({
  label,
  name,
  defaultValue,
  problem,
}: {
  label: string;
  name: string;
  defaultValue: string;
  problem?: string;
}) {
  const [kept, setKept] = useState(defaultValue);
  const [typing, setTyping] = useState<string | null>(null);
  const settle = () => {
    if (typing === null) return;
    setKept(typedHour(typing) ?? typing.trim());
    setTyping(null);
  };
  return (
    <Field label={label} problem={problem}>
      {(a) => (
        <>
          <input
            {...a}
            type="text"
            autoComplete="off"
            maxLength={12}
            className="entry w-full font-mono"
            value={typing ?? hourInField(kept)}
            onChange={(e) => setTyping(e.target.value)}
            onFocus={(e) => e.target.select()}
            onBlur={settle}
            onKeyDown={(e) => e.key === "Enter" && settle()}
          />
          <input type="hidden" name={name} value={typing === null ? kept : (typedHour(typing) ?? typing)} />
        </>
      )}
    </Field>
  );
}
