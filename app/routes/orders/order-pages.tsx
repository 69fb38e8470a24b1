import { Link } from "react-router";

const PAGES = [
  { key: "with", to: "/with-suppliers", label: "With suppliers" },
  { key: "answers", to: "/answers", label: "Answers" },
  { key: "chase", to: "/chase", label: "Chase" },
  { key: "aside", to: "/set-aside", label: "Set aside" },
  { key: "all", to: "/orders", label: "All orders" },
  { key: "blankets", to: "/blankets", label: "Blanket orders" },
  { key: "budgets", to: "/budgets", label: "Budgets" },
] as const;

/** The pages about orders that are written, beside each other. */
export function OrderPages({ here }: { here: (typeof PAGES)[number]["key"] }) {
  return (
    <nav aria-label="About orders" className="flex items-baseline gap-3 text-xs">
      {PAGES.map((p) =>
        p.key === here ? (
          <b key={p.key} aria-current="page">
            {p.label}
          </b>
        ) : (
          <Link key={p.key} to={p.to} className="underline">
            {p.label}
          </Link>
        ),
      )}
    </nav>
  );
}
