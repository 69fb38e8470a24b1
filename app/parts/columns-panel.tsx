import { ArrowDown } from "@phosphor-icons/react/dist/csr/ArrowDown";
import { ArrowUp } from "@phosphor-icons/react/dist/csr/ArrowUp";
import { Button } from "../ui/button";
import type { Chosen, ColumnSet } from "../ui/columns";
import { useAddress } from "../ui/use-address";

/** Which columns a sheet shows, and in which order. */
export function ColumnsPanel<R, W>({ set }: { set: ColumnSet<R, W> }) {
  const { put, search } = useAddress();
  const columns = set.inAddress(search.get("cols"));
  const keep = (next: readonly Chosen[]) => put({ cols: set.text(next) });
  const move = (i: number, by: number) => {
    const next = [...columns];
    const [c] = next.splice(i, 1);
    next.splice(i + by, 0, c!);
    keep(next);
  };
  const others = Object.keys(set.all).filter((k) => !columns.some((c) => c.key === k));
  return (
    <div>
      <p className="mb-1.5 text-xs text-ink-3">Widths are drawn at the edge of each head.</p>
      <ol aria-label="Columns shown">
        {columns.map((c, i) => (
          <li key={c.key} className="flex items-center gap-2 border-b border-rule-2 py-[2px]">
            <label className="flex flex-1 items-center gap-2">
              <input
                type="checkbox"
                className="accent-harbour"
                checked
                disabled={c.key === set.first}
                onChange={() => keep(columns.filter((o) => o.key !== c.key))}
              />
              {set.all[c.key]!.head}
            </label>
            <button
              type="button"
              disabled={i < 2}
              aria-label={`${set.all[c.key]!.head} further left`}
              onClick={() => move(i, -1)}
              className="p-1 disabled:opacity-30"
            >
              <ArrowUp size={13} aria-hidden="true" />
            </button>
            <button
              type="button"
              disabled={i === 0 || i === columns.length - 1}
              aria-label={`${set.all[c.key]!.head} further right`}
              onClick={() => move(i, 1)}
              className="p-1 disabled:opacity-30"
            >
              <ArrowDown size={13} aria-hidden="true" />
            </button>
          </li>
        ))}
      </ol>
      <ul aria-label="Columns that can be added" className="mt-2">
        {others.map((key) => (
          <li key={key}>
            <label className="flex items-center gap-2 py-[2px]">
              <input
                type="checkbox"
                className="accent-harbour"
                checked={false}
                onChange={() => keep([...columns, { key, width: set.all[key]!.width }])}
              />
              {set.all[key]!.head}
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-2 border-t border-rule pt-2">
        <Button look="plain" onClick={() => put({ cols: null })}>
          The usual columns
        </Button>
      </div>
    </div>
  );
}
