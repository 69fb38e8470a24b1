import { useState } from "react";
import type { MoveTarget } from "../../../../server/queries/orders/moves";
import { Button } from "../../../ui/button";

/** Takes a line, or all of them, to another draft or another supplier. */
export function MoveTo({
  label,
  targets,
  disabled,
  onMove,
}: {
  label: string;
  targets: readonly MoveTarget[];
  disabled: boolean;
  onMove: (to: string) => void;
}) {
  const [to, setTo] = useState("");
  if (targets.length === 0) return <p className="text-xs text-ink-3">{label}: nobody else sells it.</p>;
  return (
    <div className="flex items-end gap-2">
      <label className="flex min-w-0 flex-1 flex-col gap-0.5 text-xs text-ink-2">
        {label}
        <select value={to} onChange={(e) => setTo(e.target.value)} className="entry w-full">
          <option value="">stays here</option>
          {targets.map((t) => (
            <option key={t.to} value={t.to}>
              {t.says}
            </option>
          ))}
        </select>
      </label>
      <Button disabled={disabled || to === ""} onClick={() => onMove(to)}>
        Move
      </Button>
    </div>
  );
}
