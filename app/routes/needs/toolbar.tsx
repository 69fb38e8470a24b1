import { parseDay } from "../../../core/calendar/day";
import { keysOf } from "../../../core/keys";
import { RUN_WORDS, RUNS } from "../../../core/needs/run";
import type { View } from "../../../server/acts/views/keep-view";
import type { NeedSheet } from "../../../server/queries/needs/needs";
import type { FacetName, NeedQuery } from "../../../server/queries/needs/query";
import { ColumnsPanel } from "../../parts/columns-panel";
import { FindBox } from "../../parts/find-box";
import { ViewsPanel } from "../../parts/views-panel";
import { Button } from "../../ui/button";
import { DateField } from "../../ui/day-entry";
import { FoldingBar } from "../../ui/folding";
import { useWriting } from "../../ui/locale";
import { Panel } from "../../ui/popover";
import { useAddress } from "../../ui/use-address";
import { NEED_SHEET_COLUMNS } from "./columns";

const FACET_WORDS: [FacetName, string][] = [
  ["store", "Store"],
  ["supplier", "Supplier"],
  ["buyer", "Buyer"],
  ["category", "Category"],
  ["kind", "Kind"],
];
const GROUP_WORDS = {
  supplier: "supplier",
  store: "store",
  job: "job",
  date: "order-by day",
  none: "nothing",
} as const;
const LATE_WORDS = {
  misses: "will miss their date",
  below: "cannot be there in time",
  due: "must be ordered now",
} as const;

interface Props {
  query: NeedQuery;
  facets: NeedSheet["facets"];
  columns: readonly { key: string; width: number }[];
  views: readonly View[];
}

/** What the sheet shows and how: find, narrow, group, columns, views, and what the plan is made for. */
export function Toolbar({ query, facets, columns, views }: Props) {
  const { put, search } = useAddress();
  const narrowed =
    FACET_WORDS.reduce((a, [f]) => a + query[f].length, 0) + (query.late && query.late !== "misses" ? 1 : 0);
  return (
    <FoldingBar label="Narrow and arrange" first={<FindBox text={query.find} />}>
      <Panel label={narrowed ? `Narrowed by ${narrowed}` : "Narrow"} marked={narrowed > 0} wide>
        <Narrow facets={facets} />
      </Panel>
      <label className="inline-flex items-center gap-1.5 text-xs text-ink-2">
        Group by
        <select
          className="rounded-[2px] border border-rule bg-field px-1.5 py-[3px] text-xs font-semibold text-ink"
          value={search.get("group") ?? "supplier"}
          onChange={(e) => put({ group: e.target.value === "supplier" ? null : e.target.value })}
        >
          {Object.entries(GROUP_WORDS).map(([value, word]) => (
            <option key={value} value={value}>
              {word}
            </option>
          ))}
        </select>
      </label>
      <Panel label="Columns" marked={NEED_SHEET_COLUMNS.text(columns) !== null}>
        <ColumnsPanel set={NEED_SHEET_COLUMNS} />
      </Panel>
      <Panel label="Views" marked={false}>
        <ViewsPanel views={views} path="/needs" />
      </Panel>
      <span className="ml-auto" />
      <PlanPanel />
    </FoldingBar>
  );
}

function Narrow({ facets }: Pick<Props, "facets">) {
  const { put, list, search } = useAddress();
  const toggle = (name: FacetName, value: string) => {
    const chosen = new Set(list(name));
    if (!chosen.delete(value)) chosen.add(value);
    put({ [name]: [...chosen].join(",") || null });
  };
  return (
    <div className="grid grid-cols-2 gap-x-6 gap-y-3 max-md:grid-cols-1">
      <fieldset>
        <legend className="mb-1 text-xs font-semibold text-ink-2">Lateness</legend>
        {keysOf(LATE_WORDS).map((value) => (
          <label key={value} className="flex items-center gap-2 py-[2px]">
            <input
              type="radio"
              name="late"
              className="accent-harbour"
              checked={search.get("late") === value}
              onChange={() => put({ late: value })}
              onClick={() => search.get("late") === value && put({ late: null })}
            />
            {LATE_WORDS[value]}
            <span className="figure ml-auto text-ink-3">{facets.late[value]}</span>
          </label>
        ))}
      </fieldset>
      {FACET_WORDS.map(([name, word]) => (
        <fieldset key={name} className="min-w-0">
          <legend className="mb-1 text-xs font-semibold text-ink-2">{word}</legend>
          <div className="max-h-44 overflow-y-auto">
            {facets[name].map((f) => (
              <label key={f.value} className="flex items-center gap-2 py-[2px]">
                <input
                  type="checkbox"
                  className="accent-harbour"
                  checked={list(name).includes(f.value)}
                  onChange={() => toggle(name, f.value)}
                />
                <span className="truncate">{f.label}</span>
                <span className="figure ml-auto text-ink-3">{f.count}</span>
              </label>
            ))}
          </div>
        </fieldset>
      ))}
      <div className="col-span-full border-t border-rule pt-2">
        <Button
          look="plain"
          onClick={() => put({ ...Object.fromEntries(FACET_WORDS.map(([f]) => [f, null])), late: null })}
        >
          Show all again
        </Button>
      </div>
    </div>
  );
}

function PlanPanel() {
  const { put, search } = useAddress();
  const w = useWriting();
  const day = parseDay(search.get("asOf") ?? "");
  const asOf = day && day > w.today ? day : null;
  const chosen = RUNS.find((r) => r === search.get("run")) ?? "usual";
  const usual = chosen === "usual" && !asOf;
  return (
    <Panel
      label={usual ? "Plan: as usual, today" : `Plan: ${RUN_WORDS[chosen]}${asOf ? `, as of ${w.day(asOf)}` : ""}`}
      marked={!usual}
    >
      <fieldset>
        <legend className="mb-1 text-xs font-semibold text-ink-2">How much, for the whole run</legend>
        {RUNS.map((run) => (
          <label key={run} className="flex items-center gap-2 py-[3px]">
            <input
              type="radio"
              name="run"
              className="accent-harbour"
              checked={chosen === run}
              onChange={() => put({ run: run === "usual" ? null : run })}
            />
            {RUN_WORDS[run]}
          </label>
        ))}
      </fieldset>
      <DateField
        label="As of"
        className="mt-3"
        min={w.today}
        value={asOf ?? ""}
        onDay={(day) => put({ asOf: day > w.today ? day : null })}
      />
      <p className="mt-2 text-xs text-ink-3">
        The sheet is worked out as it will look that morning, with all that is due until then.
      </p>
    </Panel>
  );
}

/** One click narrows to a source; what will miss its date cuts across all of them. */
export function SourceCuts({ query, facets, all }: Pick<Props, "query" | "facets"> & { all: number }) {
  const { put } = useAddress();
  const only = query.source.length === 1 ? query.source[0] : null;
  const cut = (label: string, count: number, on: boolean, parts: Record<string, string | null>) => (
    <button
      key={label}
      type="button"
      aria-pressed={on}
      onClick={() => put(parts)}
      className="shrink-0 rounded-[2px] border border-rule bg-field px-2.5 py-[3px] text-xs whitespace-nowrap text-ink-2 aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-sheet"
    >
      {label}
      <b className="ml-1.5 font-mono text-2xs font-semibold opacity-80">{count}</b>
    </button>
  );
  return (
    <fieldset className="flex min-w-0 flex-wrap items-center gap-1.5 px-4.5 pb-1.5 max-md:flex-nowrap max-md:overflow-x-auto">
      <legend className="sr-only">Show</legend>
      {cut("All", all, query.source.length === 0 && !query.late && !query.ticked, {
        source: null,
        late: null,
        ticked: null,
      })}
      {facets.source.map((f) =>
        cut(CUT_WORDS[f.value] ?? f.label, f.count, only === f.value, { source: only === f.value ? null : f.value }),
      )}
      {facets.late.misses > 0 &&
        cut("Will miss their date", facets.late.misses, query.late === "misses", {
          late: query.late === "misses" ? null : "misses",
        })}
    </fieldset>
  );
}
const CUT_WORDS: Record<string, string> = {
  reorder: "Below reorder point",
  job: "Jobs short",
  requisition: "Requisitions",
  floor: "Floor round",
  file: "From a file",
  repeat: "To repeat",
};
