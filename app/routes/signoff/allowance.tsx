import { useState } from "react";
import { decimalText, parseDecimal } from "../../../core/numbers/decimal";
import type { Allowance as Allowed } from "../../../core/signoff/rulebook";
import { TextField } from "../../ui/field";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Amount } from "./rule-fields";

/** How much an order may grow after it was signed, before it is signed again. */
export function AllowanceFields({
  allowance,
  onChange,
}: {
  allowance: Allowed;
  onChange: ((next: Allowed) => void) | null;
}) {
  const w = useWriting();
  const [percent, setPercent] = useState(decimalText(allowance.percent, 2));
  const share = parseDecimal(percent, 2);
  const fits = share.ok && share.value >= 0 && share.value <= 10_000;
  if (!onChange)
    return (
      <SlipPart title="May grow after it was signed">
        <p>
          {w.percent(allowance.percent)}
          {allowance.amount !== null && `, at most ${w.amount(allowance.amount)}`}; another supplier is signed again.
        </p>
      </SlipPart>
    );
  return (
    <SlipPart title="May grow after it was signed">
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="Percent"
          value={percent}
          inputMode="decimal"
          maxLength={6}
          problem={fits ? undefined : "Between 0 and 100 percent."}
          onChange={(e) => {
            setPercent(e.target.value);
            const typed = parseDecimal(e.target.value, 2);
            if (typed.ok && typed.value >= 0 && typed.value <= 10_000) onChange({ ...allowance, percent: typed.value });
          }}
        />
        <Amount
          label="At most"
          minor={allowance.amount}
          placeholder="the percentage alone"
          onChange={(amount) => onChange({ ...allowance, amount })}
        />
      </div>
      <p className="mt-1 text-xs text-ink-3">
        Whichever is smaller, summed over all versions since; another supplier is signed again.
      </p>
    </SlipPart>
  );
}
