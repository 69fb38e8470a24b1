import { useMemo, useState } from "react";
import { Link, useActionData, useLoaderData, useSearchParams, useSubmit } from "react-router";
import { may } from "../../../core/people/roles";
import type { Sum } from "../../../core/sums/sum";
import { count } from "../../../core/text";
import { acceptPoints } from "../../../server/acts/needs/accept-points";
import { theCompany } from "../../../server/queries/company";
import type { ReviewRow } from "../../../server/queries/needs/review";
import { reviewOf } from "../../../server/queries/needs/review-pool";
import { Button } from "../../ui/button";
import { ChanceCurve } from "../../ui/chance-curve";
import { FindEntry } from "../../ui/find-entry";
import { flipped } from "../../ui/flipped";
import { Cuts, Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { pack, usePacked } from "../../ui/packed";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { useSubmissionKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt, withParts } from "../../ui/use-at";
import { useBusy } from "../../ui/use-busy";
import { useSlip } from "../../ui/use-slip";
import { act, page, readJson } from "../../web/page";

/** A screen shows as many as anybody would look through: those that are furthest off. */
const MOST = 3_000;

export const loader = page("see needs", async ({ db, day, person }) => {
  const rows = await reviewOf(db, day);
  return {
    rows: pack(rows.slice(0, MOST)),
    all: rows.length,
    level: theCompany(db).serviceLevel,
    mayAccept: may(person.roles, "keep sourcing"),
  };
});

export const action = act("keep sourcing", (desk, input) => acceptPoints(desk, { points: readJson(input.points) }));

export const shouldRevalidate = unlessOnlyLooking;

type Row = ReviewRow;
const keyOf = (r: Row) => r.key;
const CUTS = ["all", "low", "high"] as const;
const inCut: Record<(typeof CUTS)[number], (r: Row) => boolean> = {
  all: () => true,
  low: (r) => r.suggested > r.set * 1.1,
  high: (r) => r.suggested < r.set * 0.9,
};

/** Is the reorder point right? The suggested one beside the set one, for every item and store that uses anything. */
export default function Review() {
  const loaded = useLoaderData<typeof loader>();
  const { all, level, mayAccept } = loaded;
  const rows = usePacked(loaded.rows);
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const [search, setSearch] = useSearchParams();
  const cut = CUTS.find((c) => c === search.get("cut")) ?? "all";
  const text = search.get("find") ?? "";
  const shown = useMemo(() => {
    const wanted = text.toLowerCase().trim();
    return rows
      .filter(inCut[cut])
      .filter(
        (r) =>
          !wanted || `${r.code} ${r.name} ${r.storeName} ${r.category} ${r.supplier}`.toLowerCase().includes(wanted),
      );
  }, [rows, cut, text]);
  const [at, setAt] = useAt(shown[0]?.key ?? null);
  const here = shown.find((r) => r.key === at) ?? shown[0] ?? null;
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const chosen = rows.filter((r) => ticked.has(r.key));
  const value = chosen.reduce((a, r) => a + (r.value ?? 0), 0);
  const key = useSubmissionKey(loaded.rows);
  const accept = (which: readonly Row[]) => {
    if (busy || which.length === 0) return;
    const points = which.map((r) => ({ item: r.item, store: r.store, point: r.suggested }));
    void submit({ points: JSON.stringify(points), key: `${key()}${which.length}${which[0]!.key}` }, { method: "post" });
    setTicked(new Set([...ticked].filter((k) => !which.some((r) => r.key === k))));
  };
  useKeys(mayAccept ? [{ key: "y", label: "accept for all ticked", run: () => accept(chosen) }] : []);
  const columns = columnsIn(w, level);
  const problems = answer && !answer.ok ? answer.problems : undefined;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Is the reorder point right?"
            sub={`${count(all, "pair")} in use, to be there ${w.percent(level)} of the time`}
          >
            <Link className="underline" to="/needs">
              Back to the needs
            </Link>
          </SheetHead>
          <div className="flex items-center gap-3 px-4.5 pb-2.5">
            <Cuts
              label="Show"
              value={cut}
              onChange={(c) => setSearch(withParts({ cut: c === "all" ? null : c, at: null }), { replace: true })}
              options={[
                { value: "all", label: "All", count: rows.length },
                { value: "low", label: "Set too low", count: rows.filter(inCut.low).length },
                { value: "high", label: "Set too high", count: rows.filter(inCut.high).length },
              ]}
            />
            <FindEntry />
          </div>
          {answer?.ok && (
            <p
              role="status"
              className="mx-4.5 mb-2 border-l-4 border-harbour bg-harbour-2/60 px-3 py-1.5 font-semibold"
            >
              {count(answer.value.changed, "reorder point")} changed.
            </p>
          )}
          <Sheet
            label="Reorder points"
            columns={columns}
            rows={shown}
            keyOf={keyOf}
            at={here?.key ?? null}
            onAt={setAt}
            ticks={
              mayAccept
                ? {
                    ticked,
                    can: (r) => r.suggested !== r.set,
                    toggle: (r) => setTicked((was) => flipped(was, r.key)),
                    label: (r) => `${r.name}, ${r.storeName}`,
                  }
                : undefined
            }
            empty={
              <Empty title={rows.length ? "Nothing of this kind" : "Nothing to say yet"}>
                {rows.length
                  ? "Choose another cut above."
                  : "Once items are used and bought for some weeks, their reorder points can be looked at here."}
              </Empty>
            }
          />
          {all > MOST && (
            <p className="border-t border-rule px-4.5 py-1 text-xs text-ink-3">
              The {MOST} that are furthest off, of {all}.
            </p>
          )}
        </>
      }
      slip={
        here ? (
          <ReviewSlip row={here} mayAccept={mayAccept} busy={busy} onAccept={() => accept([here])} />
        ) : (
          <Empty title="Nothing chosen" />
        )
      }
      tally={
        <ReviewTally
          chosen={chosen}
          value={value}
          trouble={problems?.[0]?.says}
          busy={busy}
          onAccept={mayAccept ? () => accept(chosen) : null}
          onTicks={() =>
            setTicked(chosen.length ? new Set() : new Set(shown.filter((r) => r.suggested !== r.set).map(keyOf)))
          }
        />
      }
    />
  );
}

type Writing = ReturnType<typeof useWriting>;
/** The columns of the review; a chance of running out of more than twice what is wanted stands out. */
const columnsIn = (w: Writing, level: number): SheetColumn<Row>[] => [
  { key: "item", head: "Item", cell: (r) => <Named name={r.name} code={`${r.code} · ${r.storeName}`} /> },
  {
    key: "daily",
    keep: -1,
    head: "Used a day",
    align: "right",
    cell: (r) => (
      <span className="figure">
        {estimate(w, r.daily.mean)} <span className="text-ink-3">± {estimate(w, r.daily.deviation)}</span>
      </span>
    ),
  },
  {
    key: "lead",
    head: "On its way, days",
    align: "right",
    cell: (r) => (
      <span className="figure">
        {estimate(w, r.lead.mean)}{" "}
        <span className="text-ink-3">{r.lead.receipts ? `± ${estimate(w, r.lead.deviation)}` : "as stated"}</span>
      </span>
    ),
  },
  {
    key: "chance",
    keep: -1,
    head: "PageActs out",
    align: "right",
    cell: (r) => (
      <span className={`figure ${r.chance > 2 * (10_000 - level) ? "font-semibold text-signal" : ""}`}>
        {w.percent(Math.round(r.chance / 10) * 10)}
      </span>
    ),
  },
  {
    key: "set",
    keep: 2,
    head: "Set",
    align: "right",
    cell: (r) => <span className="figure">{w.quantity(r.set)}</span>,
  },
  {
    key: "suggested",
    keep: 3,
    head: "Suggested",
    align: "right",
    cell: (r) => <b className="figure">{w.quantity(r.suggested)}</b>,
  },
  { key: "unit", keep: 2, head: "", name: "Unit", cell: (r) => <span className="text-ink-2">{r.unit}</span> },
  {
    key: "value",
    head: "Stock value",
    align: "right",
    cell: (r) => <span className="figure">{r.value === null ? "·" : signed(w, r.value)}</span>,
  },
];

/** An estimate, not an exact figure: two places say all that is known. */
const estimate = (w: Writing, n: number) => w.quantity(n >= 100 ? Math.round(n) * 10_000 : Math.round(n * 100) * 100);
const signed = (w: Writing, minor: number) => `${minor > 0 ? "+" : ""}${w.amount(minor)}`;

function ReviewSlip({
  row,
  mayAccept,
  busy,
  onAccept,
}: {
  row: Row;
  mayAccept: boolean;
  busy: boolean;
  onAccept: () => void;
}) {
  const w = useWriting();
  const { slip } = useSlip<{ sum: Sum }>(`/needs/review/slip?item=${row.item}&store=${row.store}`, row);
  const during = row.daily.mean * row.lead.mean;
  const deviation = Math.sqrt(row.lead.mean * row.daily.deviation ** 2 + row.daily.mean ** 2 * row.lead.deviation ** 2);
  return (
    <>
      <SlipHead over={`${row.code} · ${row.storeName} store`} title={row.name}>
        <Link className="text-xs underline" to={`/items/${row.item}`}>
          All about this item
        </Link>
      </SlipHead>
      <ChanceCurve mean={during} deviation={deviation} set={row.set} suggested={row.suggested} unit={row.unit} />
      <p className="text-ink-2">
        {row.lead.receipts
          ? `${row.supplier} took ${estimate(w, row.lead.mean)} days over ${count(row.lead.receipts, "receipt")}.`
          : `${row.supplier} has brought this too seldom to know better, so the stated lead time is taken.`}
      </p>
      {slip && <SumSheet sum={slip.sum} />}
      {row.value !== null && row.suggested !== row.set && (
        <p>
          The stock would be worth <b className="figure">{w.amount(Math.abs(row.value))}</b>{" "}
          {row.value < 0 ? "less" : "more"} on average.
        </p>
      )}
      {mayAccept && row.suggested !== row.set && (
        <div>
          <Button disabled={busy} onClick={onAccept}>
            Set it to {w.quantity(row.suggested)} {row.unit === "each" ? "" : row.unit}
          </Button>
        </div>
      )}
    </>
  );
}

function ReviewTally({
  chosen,
  value,
  trouble,
  busy,
  onAccept,
  onTicks,
}: {
  chosen: readonly Row[];
  value: number;
  trouble: string | undefined;
  busy: boolean;
  onAccept: (() => void) | null /** Ticks all that is shown, or none. */;
  onTicks: () => void;
}) {
  const w = useWriting();
  return (
    <TallyLine
      trouble={trouble}
      keys={[[" ", "tick"]]}
      act={
        onAccept && (
          <Button look="main" hint="Y" disabled={busy || chosen.length === 0} onClick={onAccept}>
            {busy ? "Changing…" : `Accept ${count(chosen.length, "point")}`}
          </Button>
        )
      }
    >
      <span>
        <b>{chosen.length}</b> ticked
      </span>
      <span>
        stock value <b className="figure">{signed(w, value)}</b>
      </span>
      {onAccept && (
        <Button look="plain" className="min-h-0" onClick={onTicks}>
          {chosen.length ? "Untick all" : "Tick all shown"}
        </Button>
      )}
    </TallyLine>
  );
}
