import type { ReactNode } from "react";
import { Kbd, keyName } from "./keys";

/** The bar along the bottom: totals of what is chosen, the keys that work now, and the one main act at the right end. */
export function TallyLine({
  children,
  keys = [],
  act,
  trouble,
}: {
  children?: ReactNode;
  keys?: readonly (readonly [string, string])[];
  act?: ReactNode;
  trouble?: string | null;
}) {
  return (
    <footer className="col-span-full flex min-h-10 flex-wrap items-center gap-x-5 gap-y-1 border-t-2 border-ink bg-foot px-4.5 py-1 text-xs max-lg:sticky max-lg:bottom-0">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1" aria-live="polite">
        {trouble ? (
          <span role="alert" className="font-semibold text-signal">
            {trouble}
          </span>
        ) : (
          children
        )}
      </div>
      <div className="ml-auto flex flex-wrap items-center justify-end gap-x-3.5 gap-y-1 text-ink-2">
        {keys.map(([key, label]) => (
          <span key={key} className="flex items-center gap-1 whitespace-nowrap max-lg:hidden">
            <Kbd>{keyName(key)}</Kbd>
            {label}
          </span>
        ))}
        {act}
      </div>
    </footer>
  );
}
