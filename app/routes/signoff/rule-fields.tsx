import { useEffect, useRef, useState } from "react";
import { moneyText, parseMoney } from "../../../core/numbers/money";
import { TextField, UnitField } from "../../ui/field";
import { useWriting } from "../../ui/locale";

/** An amount as it is typed; only what can be read is taken over. */
export function Amount({
  label,
  minor,
  placeholder,
  problem,
  onChange,
}: {
  label: string;
  minor: number | null;
  placeholder: string;
  problem?: string;
  onChange: (minor: number | null) => void;
}) {
  const { home } = useWriting();
  const [text, setText] = useState(minor === null ? "" : moneyText({ minor, currency: home }));
  const sent = useRef(minor);
  useEffect(() => {
    // Changed from elsewhere, such as by another rung: what is typed here stays otherwise.
    if (minor === sent.current) return;
    sent.current = minor;
    setText(minor === null ? "" : moneyText({ minor, currency: home }));
  }, [minor, home]);
  const read = text.trim() === "" ? { ok: true as const, value: null } : parseMoney(text, home);
  return (
    <TextField
      label={`${label}, ${home}`}
      value={text}
      inputMode="decimal"
      maxLength={20}
      placeholder={placeholder}
      problem={read.ok ? problem : read.says}
      onChange={(e) => {
        setText(e.target.value);
        const typed =
          e.target.value.trim() === "" ? { ok: true as const, value: null } : parseMoney(e.target.value, home);
        if (!typed.ok) return;
        sent.current = typed.value;
        onChange(typed.value);
      }}
    />
  );
}

export function Hours({ hours, onChange }: { hours: number; onChange: (hours: number) => void }) {
  return (
    <UnitField
      label="Within"
      unit="working hours"
      inputMode="numeric"
      value={hours}
      onChange={(e) => {
        const n = Math.round(Number(e.target.value));
        if (n >= 1 && n <= 1000) onChange(n);
      }}
    />
  );
}

/** A list of which any may be ticked; none ticked narrows nothing. */
export function Many({
  label,
  options,
  chosen,
  onChange,
}: {
  label: string;
  options: { value: string; label: string }[];
  chosen: readonly string[];
  onChange: (chosen: string[]) => void;
}) {
  if (options.length === 0) return null;
  const words = chosen.map((c) => options.find((o) => o.value === c)?.label ?? c).join(", ");
  return (
    <details className="border border-rule bg-sheet px-2.5 py-1">
      <summary className="min-h-6 cursor-default">
        <span className="font-semibold">{label}</span> <span className="text-ink-2">{words || "all"}</span>
      </summary>
      <div className="max-h-52 overflow-y-auto py-1">
        {options.map((o) => (
          <label key={o.value} className="flex min-h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-harbour"
              checked={chosen.includes(o.value)}
              onChange={(e) => onChange(e.target.checked ? [...chosen, o.value] : chosen.filter((c) => c !== o.value))}
            />
            {o.label}
          </label>
        ))}
      </div>
    </details>
  );
}
