import { useSearchParams } from "react-router";
import { withParts } from "./use-at";

/** Narrows a sheet that is all here to the rows with a text; it stands in the address. */
export function FindEntry() {
  const [search, setSearch] = useSearchParams();
  return (
    <input
      aria-label="Find in this sheet"
      placeholder="find in this sheet"
      maxLength={80}
      value={search.get("find") ?? ""}
      onChange={(e) => setSearch(withParts({ find: e.target.value || null, at: null }), { replace: true })}
      className="entry ml-auto min-h-[28px] w-44 py-[2px] text-xs"
    />
  );
}
