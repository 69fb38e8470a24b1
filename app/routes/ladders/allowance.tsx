import { useState } from "react";
import { decimalText, parseDecimal } from "../../../core/numbers/decimal";
import { type BasisPoints, moneyText, parseMoney } from "../../../core/numbers/money";
import type { Allowance as Allowed } from "../../../core/signoff/growth";
import { TextField } from "../../ui/field";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";

/** How much an order may grow after it was signed, before it is signed again. */
export function Allowance({ allowance, onChange }: { allowance: Allowed; onChange: ((next: Allowed) => void) | null }) {
  const w = useWriting();
  const [percent, setPercent] = useState(decimalText(allowance.percent, 2));
  const [most, setMost] = useState(
    allowance.amount === null ? "" : moneyText({ minor: allowance.amount, currency: w.home }),
  );
  const share = parseDecimal(percent, 2);
  const fits = share.ok && share.value >= 0 && share.value <= 10_000;
  const amount = most.trim() === "" ? { ok: true as const, value: null } : parseMoney(most, w.home);
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
            if (typed.ok && typed.value >= 0 && typed.value <= 10_000)
              onChange({ ...allowance, percent: typed.value as BasisPoints });
          }}
        />
        <TextField
          label={`At most, ${w.home}`}
          value={most}
          inputMode="decimal"
          maxLength={20}
          placeholder="the percentage alone"
          problem={amount.ok ? undefined : amount.says}
          onChange={(e) => {
            setMost(e.target.value);
            const typed =
              e.target.value.trim() === "" ? { ok: true as const, value: null } : parseMoney(e.target.value, w.home);
            if (typed.ok) onChange({ ...allowance, amount: typed.value });
          }}
        />
      </div>
      <p className="mt-1 text-xs text-ink-3">
        Whichever is smaller, summed over all versions since; another supplier is signed again.
      </p>
    </SlipPart>
  );
}
