import { Progress } from "radix-ui";

/** How far something is; without `done` it has not begun. */
export function ProgressBar({
  done,
  of,
  label,
  className = "",
}: {
  done?: number;
  of: number;
  label: string;
  className?: string;
}) {
  const most = Math.max(1, of);
  return (
    <Progress.Root
      value={done === undefined ? null : Math.min(done, most)}
      max={most}
      aria-label={label}
      className={`h-2 overflow-hidden bg-rule ${className}`}
    >
      <Progress.Indicator className="h-full bg-harbour" style={{ width: `${((done ?? 0) / most) * 100}%` }} />
    </Progress.Root>
  );
}
