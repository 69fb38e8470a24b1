import { useLoaderData, useSearchParams } from "react-router";
import { DIMENSIONS, type Dimension } from "../../../core/insight/breakdown";
import { MEASURE_WORDS } from "../../../core/insight/words";
import { keysOf } from "../../../core/keys";
import { count } from "../../../core/text";
import { readViews } from "../../../server/acts/views/keep-view";
import { breakdownOf, readBreakdown, valueNames } from "../../../server/queries/insight/breakdown";
import { ViewsPanel } from "../../parts/views-panel";
import { Empty, SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { TallyLine } from "../../ui/tally-line";
import { useAddress } from "../../ui/use-address";
import { unlessOnlyLooking, useAt } from "../../ui/use-at";
import { actions, page } from "../../web/page";
import { viewActs } from "../../web/view-acts";
import { BreakdownControls } from "./breakdown-asked";
import { BreakdownSlip } from "./breakdown-slip";
import { BreakdownTable, useFigure } from "./breakdown-table";
import { InsightPages } from "./insight-pages";

export const loader = page("see insight", ({ db, url, day, person }) => {
  const asked = breakdownOf(url.searchParams, day);
  return {
    asked,
    breakdown: readBreakdown(db, asked),
    names: Object.fromEntries(
      keysOf(asked.filters).map((d) => [d, valueNames(db, d, [asked.filters[d]!])(asked.filters[d]!)]),
    ) as Partial<Record<Dimension, string>>, // by the dimensions that are narrowed
    views: readViews(db, person.id, "insight"),
  };
});
export const action = actions("see insight", viewActs("insight"));

/** Where the money went: a measure by one thing or two, each cell down to its papers. */
export default function BreakdownPage() {
  const { asked, breakdown, names, views } = useLoaderData<typeof loader>();
  const w = useWriting();
  const { put, search } = useAddress();
  const [params] = useSearchParams();
  const [at, setAt] = useAt(breakdown.rows[0]?.key ?? null);
  const f = useFigure(asked.count === "value");
  const row = breakdown.rows.find((r) => r.key === at) ?? breakdown.rows[0] ?? null;
  const column = breakdown.columns.find((c) => c.key === params.get("in")) ?? null;
  const narrow = (by: Partial<Record<Dimension, string>>) => {
    const next = asked.columns ?? DIMENSIONS.find((d) => by[d] === undefined && asked.filters[d] === undefined)!;
    put({
      ...Object.fromEntries(Object.entries(by).map(([d, key]) => [`is-${d}`, key])),
      ...(by[asked.rows] === undefined
        ? {}
        : { rows: by[next] === undefined ? next : "item", columns: null, in: null }),
    });
  };
  const files = search.toString();
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Where the money went" sub={`${MEASURE_WORDS[asked.measure]}, before tax, in ${w.home}`}>
            <InsightPages here="/insight" />
          </SheetHead>
          <BreakdownControls asked={asked} names={names} put={(parts) => put({ in: null, ...parts })} />
          {breakdown.rows.length === 0 ? (
            <Empty title="Nothing in these days">
              Nothing {MEASURE_WORDS[asked.measure]} between {w.day(asked.from)} and {w.day(asked.until)}
              {Object.keys(names).length > 0 && ", for what it is narrowed to"}.
            </Empty>
          ) : (
            <BreakdownTable
              of={breakdown}
              asked={asked}
              at={row?.key ?? null}
              column={column?.key ?? null}
              onCell={(key, of) => {
                if (of !== (column?.key ?? null)) put({ in: of });
                setAt(key);
              }}
            />
          )}
        </>
      }
      slip={
        <>
          {row && (
            <BreakdownSlip
              asked={asked}
              row={row}
              column={column}
              total={breakdown.total}
              search={files}
              onNarrow={narrow}
            />
          )}
          <SlipPart title="Kept by name">
            <ViewsPanel views={views} path="/insight" mails />
          </SlipPart>
          <p className="text-xs">
            As a file:{" "}
            {(["csv", "xlsx", "pdf", "json"] as const).map((as, i) => (
              <span key={as}>
                {i > 0 && ", "}
                <a className="underline" href={`/insight/breakdown.${as}?${files}`}>
                  {as.toUpperCase()}
                </a>
              </span>
            ))}
          </p>
        </>
      }
      tally={
        <TallyLine keys={breakdown.columns.length ? [["←→", "column"]] : []}>
          <span>
            <b>{count(breakdown.rows.length, "row")}</b>
          </span>
          <span>
            {w.day(asked.from, false)} to {w.day(asked.until, false)}
          </span>
          <span>
            {asked.count === "papers" ? "papers, by each row" : "all of it"}{" "}
            <b className="figure">{f.exact(breakdown.total)}</b>
          </span>
        </TallyLine>
      }
    />
  );
}

/** Choosing a cell reads nothing anew but its papers. */
export const shouldRevalidate = (args: Parameters<typeof unlessOnlyLooking>[0]) => {
  const bare = (url: URL) => {
    const rest = new URLSearchParams(url.search);
    for (const part of ["at", "in"]) rest.delete(part);
    return `${url.pathname}?${rest}`;
  };
  return bare(args.currentUrl) === bare(args.nextUrl) ? unlessOnlyLooking(args) : args.defaultShouldRevalidate;
};
