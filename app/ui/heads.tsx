import type { ReactNode } from "react";

export interface Head {
  label: ReactNode;
  align?: "right";
  /** A Tailwind width such as "w-28". */
  width?: string;
  /** Said to screen readers only. */
  hidden?: boolean;
  /** The column is left out on a phone: its cells say so, too. */
  wide?: boolean;
}

/** The ruled line of column heads above a plain table. */
export function Heads({ heads }: { heads: readonly Head[] }) {
  return (
    <thead>
      <tr className="border-b-2 border-ink text-2xs text-ink-3">
        {heads.map((h, i) => (
          <th
            key={i}
            scope="col"
            className={`px-2 py-1.5 font-semibold first:pl-4.5 last:pr-4.5 ${h.wide ? "max-md:hidden" : ""} ${h.align === "right" ? "text-right" : "text-left"} ${h.width ?? ""}`}
          >
            {h.hidden ? <span className="sr-only">{h.label}</span> : h.label}
          </th>
        ))}
      </tr>
    </thead>
  );
}
