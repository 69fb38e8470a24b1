import { Link, useLoaderData } from "react-router";
import { AHEAD_BY, WEEKS } from "../../../core/insight/ahead";
import { may } from "../../../core/people/roles";
import { aheadAsked, readStillToCome } from "../../../server/queries/insight/ahead";
import { usualPlan } from "../../../server/queries/needs/need";
import { Cuts, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { TallyLine } from "../../ui/tally-line";
import { useAddress } from "../../ui/use-address";
import { useAt } from "../../ui/use-at";
import { page } from "../../web/page";
import { type AheadRow, AheadSheet } from "./ahead-sheet";
import { AheadSlip } from "./ahead-slip";
import { InsightPages } from "./insight-pages";

export const loader = page("see insight", ({ db, url, day, hour, person }) => {
  const pays = may(person.roles, "see payables");
  return {
    ...readStillToCome(db, aheadAsked(url.searchParams), usualPlan(day, hour), pays),
    pays,
    opens: may(person.roles, "see orders"),
    jobs: may(person.roles, "see jobs"),
  };
});

const BY_WORDS = { week: "by week", supplier: "by supplier", job: "by job", budget: "by budget line" } as const;
const SUBS = {
  week: `the next ${WEEKS} weeks`,
  supplier: "what is late first",
  job: "jobs that lack most first",
  budget: "periods that are not over",
} as const;

/** What suppliers have still to bring and what goes out for it: by week, supplier, job or budget line. */
export default function AheadPage() {
  const { pays, opens, jobs, ...ahead } = useLoaderData<typeof loader>();
  const w = useWriting();
  const { search, put } = useAddress();
  const rows: readonly AheadRow[] = ahead.rows;
  const [at, setAt] = useAt(rows[0]?.key ?? null);
  const here = rows.find((r) => r.key === at) ?? rows[0];
  const coming = rows.reduce((n, r) => n + r.coming, 0);
  const late = rows.reduce(
    (n, r) => n + ("late" in r ? r.late[0] + r.late[1] + r.late[2] : r.key === "late" ? r.coming : 0),
    0,
  );
  const out = ahead.by === "week" && pays ? (ahead.rows.at(-1)?.out ?? 0) : null;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="What is still to come" sub={`${SUBS[ahead.by]}, in ${w.home}`}>
            <InsightPages here="/insight/ahead" />
          </SheetHead>
          <div className="flex flex-wrap items-end gap-3 px-4.5 pb-2.5">
            <Cuts
              label="By"
              value={AHEAD_BY.find((by) => by === search.get("by")) ?? ahead.by}
              options={AHEAD_BY.map((by) => ({ value: by, label: BY_WORDS[by] }))}
              onChange={(by) => put({ by, at: null })}
            />
          </div>
          <AheadSheet ahead={ahead} w={w} pays={pays} at={here?.key ?? null} onAt={setAt} />
        </>
      }
      slip={here && <AheadSlip by={ahead.by} row={here} opens={opens} jobs={jobs} />}
      tally={
        <TallyLine>
          <span>
            still to come <b className="figure">{w.amount(coming)}</b>
          </span>
          <span>
            of it late <b className="figure">{w.amount(late)}</b>
          </span>
          {out !== null && (
            <span>
              to be paid in all <b className="figure">{w.amount(out)}</b>
            </span>
          )}
          <Link className="underline" to={`/insight/ahead.csv?by=${ahead.by}`} reloadDocument>
            CSV
          </Link>
        </TallyLine>
      }
    />
  );
}
