import { Link } from "react-router";

const PAGES = [
  { key: "dock", to: "/dock", label: "Coming in" },
  { key: "open", to: "/open-count", label: "Open count" },
  { key: "stow", to: "/stow", label: "Stow list" },
  { key: "shelves", to: "/shelves", label: "Shelves" },
  { key: "consigned", to: "/consigned", label: "Consigned" },
  { key: "counts", to: "/stock-counts", label: "Stock counts" },
  { key: "aside", to: "/set-aside", label: "Set aside" },
  { key: "returns", to: "/returns", label: "Returns" },
] as const;

/** The pages of the dock, beside each other. */
export function DockPages({
  here,
  counts,
}: {
  here: (typeof PAGES)[number]["key"];
  /** May this person count? */
  counts: boolean;
}) {
  return (
    <nav aria-label="About the dock" className="flex flex-wrap items-center gap-x-3 text-xs">
      {PAGES.filter((p) => counts || p.key !== "open").map((p) =>
        p.key === here ? (
          <b key={p.key} aria-current="page" className="min-h-6 content-center">
            {p.label}
          </b>
        ) : (
          <Link key={p.key} to={p.to} className="inline-block min-h-6 content-center underline max-lg:min-h-12">
            {p.label}
          </Link>
        ),
      )}
    </nav>
  );
}
