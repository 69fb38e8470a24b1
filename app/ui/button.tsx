import type { ComponentProps, ReactNode } from "react";
import { Link } from "react-router";
import { Kbd } from "./keys";

const base =
  "inline-flex min-h-[30px] items-center gap-2 rounded-[2px] py-1 font-semibold whitespace-nowrap disabled:opacity-45";
const looks = {
  main: "px-3 bg-ink text-sheet hover:bg-harbour",
  quiet: "px-3 border border-ink text-ink hover:bg-ink/5",
  plain: "underline underline-offset-2 hover:text-harbour",
};
type Look = keyof typeof looks;

/** A button that says what happens; `hint` names its key. */
export function Button({
  look = "quiet",
  hint,
  children,
  className = "",
  ...props
}: ComponentProps<"button"> & { look?: Look; hint?: string }) {
  return (
    <button type="button" {...props} className={`${base} ${looks[look]} ${className}`}>
      {children}
      {hint && <Kbd>{hint}</Kbd>}
    </button>
  );
}

export function ButtonLink({
  to,
  look = "quiet",
  hint,
  children,
  reload = false,
}: {
  to: string;
  look?: Look;
  hint?: string;
  children: ReactNode;
  reload?: boolean;
}) {
  return (
    <Link to={to} reloadDocument={reload} className={`${base} ${looks[look]}`}>
      {children}
      {hint && <Kbd>{hint}</Kbd>}
    </Link>
  );
}
