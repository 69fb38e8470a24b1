import type { ReactNode } from "react";

/** Sheet at the left, slip at the right, tally line along the bottom: the shape of every working page. */
export function SheetAndSlip({
  sheet,
  slip,
  tally,
  wide = false,
}: {
  sheet: ReactNode;
  slip?: ReactNode;
  tally: ReactNode;
  wide?: boolean;
}) {
  return (
    <div
      className={`grid min-h-0 flex-1 grid-rows-[minmax(0,1fr)_auto] ${slip ? (wide ? "lg:grid-cols-[minmax(0,1fr)_340px]" : "lg:grid-cols-[minmax(0,1fr)_340px] xl:grid-cols-[minmax(0,1fr)_392px]") : "grid-cols-1"} max-lg:grid-rows-[1fr] max-lg:grid-cols-1`}
    >
      <main
        id="sheet"
        tabIndex={-1}
        className="flex min-h-0 min-w-0 flex-col border-r border-rule bg-sheet outline-none"
      >
        {sheet}
      </main>
      {slip && (
        <aside
          aria-label="Slip"
          className="flex min-h-0 flex-col gap-4 overflow-y-auto bg-paper px-4.5 py-4 max-lg:border-t max-lg:border-rule"
        >
          {slip}
        </aside>
      )}
      {tally}
    </div>
  );
}

export function SheetHead({ title, sub, children }: { title: string; sub?: ReactNode; children?: ReactNode }) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 px-4.5 pt-3.5 pb-2.5">
      <title>{`${title} · Wharf Tally`}</title>
      <h1 className="text-xl font-bold">{title}</h1>
      {sub && <p className="text-ink-2">{sub}</p>}
      {children && <div className="ml-auto flex items-center gap-3">{children}</div>}
    </div>
  );
}

export function SlipHead({ over, title, children }: { over?: ReactNode; title: string; children?: ReactNode }) {
  return (
    <div>
      {over && <p className="code">{over}</p>}
      <h2 className="text-lg font-bold">{title}</h2>
      {children}
    </div>
  );
}

export function SlipPart({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <h2 className="mb-1.5 font-sans text-xs font-semibold tracking-normal text-ink-2">{title}</h2>
      {children}
    </section>
  );
}

/** What stands where there is nothing: why, and what to do next. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="px-4.5 py-12">
      <h2 className="text-lg font-bold">{title}</h2>
      <div className="mt-1.5 max-w-prose text-ink-2">{children}</div>
    </div>
  );
}

/** A choice of what the sheet shows; the chosen one is ink. */
export function Cuts<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: { value: T; label: string; count?: number }[];
  onChange: (v: T) => void;
}) {
  return (
    <fieldset className="flex min-w-0 flex-wrap items-center gap-1.5 max-md:flex-nowrap max-md:overflow-x-auto">
      <legend className="sr-only">{label}</legend>
      {options.map((o) => (
        <button
          key={o.value}
          type="button"
          aria-pressed={o.value === value}
          onClick={() => onChange(o.value)}
          className="shrink-0 rounded-[2px] border border-rule bg-field px-2.5 py-[3px] text-xs whitespace-nowrap text-ink-2 aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-sheet"
        >
          {o.label}
          {o.count !== undefined && <b className="ml-1.5 font-mono text-2xs font-semibold opacity-80">{o.count}</b>}
        </button>
      ))}
    </fieldset>
  );
}
