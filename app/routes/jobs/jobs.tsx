import { useMemo } from "react";
import { useLoaderData, useNavigate, useSearchParams } from "react-router";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { type JobRow, readJobs } from "../../../server/queries/jobs/jobs";
import { usualPlan } from "../../../server/queries/needs/need";
import { ButtonLink } from "../../ui/button";
import { Cuts, Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt, withParts } from "../../ui/use-at";
import { page } from "../../web/page";

export const loader = page("see jobs", ({ db, day, hour, person }) => ({
  rows: readJobs(db, usualPlan(day, hour)),
  mayKeep: may(person.roles, "keep jobs"),
}));
export const shouldRevalidate = unlessOnlyLooking;

type Row = JobRow;
const keyOf = (r: Row) => String(r.id);
const CUTS = ["open", "short", "closed"] as const;
const inCut: Record<(typeof CUTS)[number], (r: Row) => boolean> = {
  open: (r) => r.closed === null,
  short: (r) => r.closed === null && r.short > 0,
  closed: (r) => r.closed !== null,
};

/** Jobs and customer orders, and what they lack. */
export default function Jobs() {
  const { rows, mayKeep } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const cut = CUTS.find((c) => c === search.get("cut")) ?? "open";
  const shown = useMemo(() => rows.filter(inCut[cut]), [rows, cut]);
  const [at, setAt] = useAt(shown[0] ? keyOf(shown[0]) : null);
  const columns: SheetColumn<Row>[] = [
    {
      key: "job",
      head: "Job or customer order",
      cell: (r) => <Named name={r.name || r.code} code={`${r.code}${r.vessel ? ` · ${r.vessel}` : ""}`} />,
    },
    { key: "kind", keep: -1, head: "Kind", cell: (r) => r.kind },
    { key: "due", keep: 2, head: "First needed", align: "right", cell: (r) => (r.firstDue ? w.day(r.firstDue) : "–") },
    {
      key: "open",
      head: "Lines open",
      align: "right",
      cell: (r) => <span className="figure">{`${r.open} of ${r.lines}`}</span>,
    },
    {
      key: "short",
      keep: 3,
      head: "Short",
      align: "right",
      cell: (r) =>
        r.short ? (
          <b className="figure text-signal">{r.short}</b>
        ) : (
          <span className="text-ink-3">{r.open ? "nothing" : "·"}</span>
        ),
    },
    {
      key: "tied",
      head: "Bought for it",
      align: "right",
      cell: (r) => <span className="figure">{r.tied || "·"}</span>,
    },
  ];
  const of = (c: (typeof CUTS)[number]) => rows.filter(inCut[c]).length;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Jobs and customer orders" sub="what they want by when; another system may own them" />
          <div className="px-4.5 pb-2.5">
            <Cuts
              label="Show"
              value={cut}
              onChange={(c) => setSearch(withParts({ cut: c === "open" ? null : c, at: null }), { replace: true })}
              options={[
                { value: "open", label: "Open", count: of("open") },
                { value: "short", label: "Short of something", count: of("short") },
                { value: "closed", label: "Closed", count: of("closed") },
              ]}
            />
          </div>
          <Sheet
            label="Jobs"
            columns={columns}
            rows={shown}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            onOpen={(r) => navigate(`/jobs/${r.id}`)}
            empty={
              <Empty title={rows.length ? "Nothing of this kind" : "No jobs yet"}>
                {rows.length
                  ? "Choose another cut above."
                  : "Load them under Files, or enter one: what a job wants by a day counts as committed."}
              </Empty>
            }
          />
        </>
      }
      tally={
        <TallyLine
          keys={[["enter", "open"]]}
          act={
            mayKeep && (
              <ButtonLink to="/jobs/new" look="main">
                New job
              </ButtonLink>
            )
          }
        >
          <span>{count(of("open"), "open job")}</span>
          <span>
            <b>{rows.reduce((a, r) => a + (r.closed ? 0 : r.short), 0)}</b> lines short
          </span>
        </TallyLine>
      }
    />
  );
}
