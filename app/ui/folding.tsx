import { type ReactNode, useState } from "react";

/** A row of controls: on a narrow screen only `first` stays, and the others unfold beneath it. */
export function FoldingBar({
  label,
  first,
  children,
  className = "px-4.5 pb-2.5",
}: {
  label: string;
  first: ReactNode;
  children: ReactNode;
  className?: string;
}) {
  const [open, setOpen] = useState(false);
  return (
    <div className={`flex flex-wrap items-center gap-1.5 ${className}`}>
      {first}
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen((o) => !o)}
        className="ml-auto min-h-[28px] rounded-[2px] border border-rule bg-field px-2.5 text-xs text-ink-2 md:hidden"
      >
        {label}
        <span aria-hidden="true" className="ml-1 text-2xs">
          {open ? "▴" : "▾"}
        </span>
      </button>
      <div className={`contents ${open ? "" : "max-md:hidden"}`}>{children}</div>
    </div>
  );
}
