import { Popover } from "radix-ui";
import type { ReactNode } from "react";

/** A button that opens a ruled panel beneath it; `marked` says that what is inside is not as usual. */
export function Panel({
  label,
  marked = false,
  children,
  wide = false,
}: {
  label: string;
  marked?: boolean;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger
        className={`inline-flex min-h-[28px] items-center gap-1 rounded-[2px] border px-2.5 py-[2px] text-xs whitespace-nowrap ${marked ? "border-ink font-semibold text-ink" : "border-rule bg-field text-ink-2"}`}
      >
        {label}
        <span aria-hidden="true" className="text-2xs">
          ▾
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={label}
          align="start"
          sideOffset={4}
          collisionPadding={12}
          className={`z-40 max-h-[var(--radix-popover-content-available-height)] overflow-y-auto border-2 border-ink bg-sheet p-3 text-sm ${wide ? "w-[560px] max-w-[94vw]" : "w-[280px]"}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
