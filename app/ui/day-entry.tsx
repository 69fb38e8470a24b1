import { CalendarBlank } from "@phosphor-icons/react/dist/csr/CalendarBlank";
import { Popover } from "radix-ui";
import { type ComponentProps, lazy, Suspense, useId, useState } from "react";
import { type Day, parseDay } from "../../core/calendar/day";
import { dayExample, dayInField, typedDay } from "../../core/calendar/typed-day";
import { Field } from "./field";
import { useWriting } from "./locale";

const Month = lazy(() => import("./month"));

type InputProps = Omit<ComponentProps<"input">, "value" | "defaultValue" | "onChange" | "type" | "min" | "max">;
export interface DayEntryProps extends InputProps {
  /** ISO 8601, or what was typed where that is no day; empty for none. Without it the field keeps its own. */
  value?: string;
  defaultValue?: string;
  /** Is told the day once it is whole, and what else was typed when the field is left. */
  onDay?: (value: string) => void;
  min?: string;
  max?: string;
  /** Written as elsewhere than in the house: the private pages of suppliers. */
  written?: { locale: string; today: Day };
}

/**
 * A day, typed as the person writes days or picked from a month; it shows in their format. In a form its name carries
 * ISO 8601. What is no day stays as it was typed, and says how one is written.
 */
export function DayEntry({
  value,
  defaultValue = "",
  onDay,
  name,
  min,
  max,
  written,
  className = "",
  disabled,
  "aria-label": label,
  "aria-invalid": invalid,
  ...props
}: DayEntryProps) {
  const here = useWriting();
  const { locale, today } = written ?? here;
  const [own, setOwn] = useState(defaultValue);
  const [typing, setTyping] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const about = useId();
  const kept = value ?? own;
  const day = parseDay(kept);
  const give = (next: string) => {
    setOwn(next);
    if (next !== kept) onDay?.(next);
  };
  /** Leaves what was typed as a day, where it is one. */
  const settle = () => {
    if (typing === null) return;
    setTyping(null);
    give(typedDay(typing, today, locale) ?? typing.trim());
  };
  const wrong = typing === null && kept !== "" && day === null;
  return (
    <span className={`inline-flex min-w-0 flex-col ${className || "w-full"}`}>
      <span className="relative inline-flex w-full">
        <input
          {...props}
          type="text"
          inputMode="text"
          autoComplete="off"
          spellCheck={false}
          maxLength={40}
          disabled={disabled}
          aria-label={label}
          aria-invalid={wrong || invalid ? true : undefined}
          aria-describedby={wrong ? about : props["aria-describedby"]}
          className="entry w-full pr-7"
          value={typing ?? (day ? dayInField(day, locale) : kept)}
          onChange={(e) => {
            setTyping(e.target.value);
            const found = typedDay(e.target.value, today, locale);
            // A day is whole once its year is typed; until then it may become another.
            if (found && /\d{4}/.test(e.target.value)) give(found);
            else if (e.target.value === "") give("");
          }}
          onFocus={(e) => e.target.select()}
          onBlur={(e) => {
            settle();
            props.onBlur?.(e);
          }}
          onKeyDown={(e) => {
            if (e.key === "ArrowDown" && e.altKey) {
              e.preventDefault();
              setOpen(true);
            }
            if (e.key === "Enter") settle();
            props.onKeyDown?.(e);
          }}
        />
        <Popover.Root open={open} onOpenChange={setOpen}>
          <Popover.Trigger
            type="button"
            disabled={disabled}
            tabIndex={-1}
            aria-label="Pick a day"
            className="absolute inset-y-0 right-0 flex w-7 items-center justify-center text-ink-3 hover:text-ink"
          >
            <CalendarBlank aria-hidden="true" size={15} />
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="end"
              sideOffset={4}
              collisionPadding={12}
              aria-label="A month to pick a day from"
              className="z-40 border-2 border-ink bg-sheet p-3 text-sm"
            >
              <Suspense fallback={<p className="w-[252px] text-xs text-ink-3">one moment…</p>}>
                <Month
                  day={day}
                  today={today}
                  locale={locale}
                  min={min}
                  max={max}
                  onDay={(picked) => {
                    setTyping(null);
                    give(picked);
                    setOpen(false);
                  }}
                />
              </Suspense>
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </span>
      {name && (
        <input type="hidden" name={name} value={typing === null ? kept : (typedDay(typing, today, locale) ?? typing)} />
      )}
      {wrong && (
        <span id={about} className="text-2xs font-semibold text-signal">
          This is no day. Write it like {dayExample(today, locale)}.
        </span>
      )}
    </span>
  );
}

/** A day with its label, and beneath it what is wrong with it. */
export function DateField({
  label,
  problem,
  hint,
  className,
  ...props
}: DayEntryProps & { label: string; problem?: string; hint?: string }) {
  return (
    <Field label={label} problem={problem} hint={hint} className={className}>
      {(a) => <DayEntry {...props} {...a} />}
    </Field>
  );
}
