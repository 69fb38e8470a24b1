import { type ComponentProps, type ReactNode, useRef } from "react";
import { useFetcher } from "react-router";
import { Button } from "./button";
import { Field, problemAt } from "./field";
import { newKey } from "./submission";

interface Problem {
  field: string;
  says: string;
}
type Answer = { ok: true } | { ok: false; problems: Problem[]; stale?: true };

/**
 * A form that keeps one record: its refusals stand at their fields, a second click does nothing more, and it says when it
 * is kept. `at` gives the sentence of a field.
 */
export function RecordForm<Word extends string = never>({
  does,
  fields = {},
  send,
  saved = "Kept.",
  children,
  className = "",
  body,
}: {
  /** One of the words of the page that it stands on, which the type names. */
  does: NoInfer<Word>;
  fields?: Record<string, string | number>;
  send: string;
  saved?: string;
  children: (at: (field: string) => string | undefined) => ReactNode;
  className?: string;
  /** Adds what is not a field of the form. */
  body?: (form: FormData) => void;
}) {
  const fetcher = useFetcher<Answer>();
  const key = useRef<string | null>(null);
  const problems = fetcher.data && !fetcher.data.ok ? fetcher.data.problems : undefined;
  const whole = problems?.filter((p) => p.field === "");
  const busy = fetcher.state !== "idle";
  return (
    <fetcher.Form
      method="post"
      className={className}
      onChange={() => {
        key.current = null; // another wish than the one that was sent
      }}
      onSubmit={(e) => {
        e.preventDefault();
        if (busy) return;
        const form = new FormData(e.currentTarget);
        key.current ??= newKey();
        form.set("do", does);
        form.set("key", key.current);
        for (const [name, value] of Object.entries(fields)) form.set(name, String(value));
        body?.(form);
        const files = [...form.values()].some((v) => v instanceof File);
        void fetcher.submit(form, { method: "post", encType: files ? "multipart/form-data" : undefined });
      }}
    >
      {children((field) => problemAt(problems, field))}
      <div className="col-span-full mt-1 flex flex-wrap items-center gap-3">
        <Button type="submit" look="main" disabled={busy}>
          {send}
        </Button>
        <span aria-live="polite" className="text-xs">
          {busy ? (
            "keeping…"
          ) : whole?.length ? (
            <b className="text-signal">{whole.map((p) => p.says).join(" ")}</b>
          ) : problems ? (
            <b className="text-signal">Some fields need another look.</b>
          ) : (
            fetcher.data?.ok && <span className="text-weed">{saved}</span>
          )}
        </span>
      </div>
    </fetcher.Form>
  );
}

/** A choice from a list, with its label and what is wrong with it. */
export function SelectField({
  label,
  problem,
  hint,
  options,
  className,
  ...props
}: ComponentProps<"select"> & {
  label: string;
  problem?: string;
  hint?: string;
  options: readonly { value: string | number; label: string }[];
}) {
  return (
    <Field label={label} problem={problem} hint={hint} className={className}>
      {(a) => (
        <select {...props} {...a} className="entry">
          {options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** Seven boxes for the weekdays; sent as `name[]`, 0 for Monday. */
export function WeekdayField({
  label,
  name,
  days,
  problem,
}: {
  label: string;
  name: string;
  days: number;
  problem?: string;
}) {
  return (
    <fieldset>
      <legend className="mb-1 text-xs font-semibold text-ink-2">{label}</legend>
      <div className="flex flex-wrap gap-x-3 gap-y-1">
        {DAYS.map((d, i) => (
          <label key={d} className="flex items-center gap-1">
            <input
              type="checkbox"
              name={`${name}[]`}
              value={i}
              defaultChecked={(days & (1 << i)) !== 0}
              className="accent-harbour"
            />
            {d}
          </label>
        ))}
      </div>
      {problem && <p className="mt-1 text-xs font-semibold text-signal">{problem}</p>}
    </fieldset>
  );
}

/** A region by the name that date-holidays has for it, or none. */
export function RegionField({
  region,
  regions,
  problem,
}: {
  region: string;
  regions: readonly { code: string; name: string }[];
  problem?: string;
}) {
  return (
    <Field label="Public holidays of" problem={problem} hint="type a country or a part of one; empty keeps none">
      {(a) => (
        <>
          <input
            {...a}
            name="region"
            list={`${a.id}-regions`}
            defaultValue={region}
            maxLength={10}
            className="entry"
            placeholder="none"
          />
          <datalist id={`${a.id}-regions`}>
            {regions.map((r) => (
              <option key={r.code} value={r.code}>
                {r.name}
              </option>
            ))}
          </datalist>
        </>
      )}
    </Field>
  );
}
