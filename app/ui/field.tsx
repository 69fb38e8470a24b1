import { type ComponentProps, type ReactNode, useId } from "react";

interface Problem {
  field: string;
  says: string;
}

/** The sentence for a field, if it has one. */
export const problemAt = (problems: readonly Problem[] | undefined, field: string) =>
  problems?.find((p) => p.field === field)?.says;

/** A label, its entry, and, beneath, what is wrong with it. */
export function Field({
  label,
  problem,
  hint,
  children,
  className = "",
}: {
  label: string;
  problem?: string;
  hint?: string;
  className?: string;
  children: (props: { id: string; "aria-invalid"?: true; "aria-describedby"?: string }) => ReactNode;
}) {
  const id = useId();
  const about = problem || hint ? `${id}-about` : undefined;
  return (
    <div className={`flex flex-col gap-1 ${className}`}>
      <label htmlFor={id} className="text-xs font-semibold text-ink-2">
        {label}
      </label>
      {children({ id, "aria-invalid": problem ? true : undefined, "aria-describedby": about })}
      {problem ? (
        <p id={about} className="text-xs font-semibold text-signal">
          {problem}
        </p>
      ) : (
        hint && (
          <p id={about} className="text-xs text-ink-3">
            {hint}
          </p>
        )
      )}
    </div>
  );
}

export function TextField({
  label,
  problem,
  hint,
  className,
  ...props
}: ComponentProps<"input"> & { label: string; problem?: string; hint?: string }) {
  return (
    <Field label={label} problem={problem} hint={hint} className={className}>
      {(a) => <input {...props} {...a} className="entry" />}
    </Field>
  );
}

/** An entry within a sheet's row: its label is for screen readers, its problem is a line beneath. */
export function CellEntry({
  label,
  problem,
  className = "",
  ...props
}: ComponentProps<"input"> & { label: string; problem?: string }) {
  const id = useId();
  return (
    <span className="inline-flex flex-col items-end">
      <input
        {...props}
        aria-label={label}
        aria-invalid={problem ? true : undefined}
        aria-describedby={problem ? id : undefined}
        className={`entry text-right font-mono ${className}`}
      />
      {problem && (
        <span id={id} className="max-w-48 text-right text-2xs font-semibold whitespace-normal text-signal">
          {problem}
        </span>
      )}
    </span>
  );
}

/** Sentences that belong to no field. */
export function Problems({ problems, only }: { problems?: readonly Problem[]; only?: (p: Problem) => boolean }) {
  const shown = problems?.filter(only ?? ((p) => p.field === ""));
  if (!shown?.length) return null;
  return (
    <div role="alert" className="border-l-4 border-signal bg-signal-2/60 px-3 py-2 font-semibold">
      {shown.map((p) => (
        <p key={p.field + p.says}>{p.says}</p>
      ))}
    </div>
  );
}

/** A number with what it counts behind it. */
export function UnitField({
  label,
  unit,
  problem,
  hint,
  className,
  ...props
}: ComponentProps<"input"> & { label: string; unit: string; problem?: string; hint?: string }) {
  return (
    <Field label={label} problem={problem} hint={hint} className={className}>
      {(a) => (
        <span className="flex items-center gap-2">
          <input
            inputMode="decimal"
            maxLength={20}
            {...props}
            {...a}
            className="entry w-full min-w-0 text-right font-mono"
          />
          <span className="shrink-0 text-xs text-ink-2">{unit}</span>
        </span>
      )}
    </Field>
  );
}
