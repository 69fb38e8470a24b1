import { useLoaderData, useSearchParams } from "react-router";
import { readTrail, readTrailCheck, type TrailCheck } from "../../../server/queries/trail";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt, withParts } from "../../ui/use-at";
import { page } from "../../web/page";

export const loader = page("see the trail", ({ db }) => ({
  rows: readTrail(db),
  check: readTrailCheck(db),
}));
export const shouldRevalidate = unlessOnlyLooking;

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);

/** Everything that was done: who, when, to what. Each row holds the hash of the one before. */
export default function Trail() {
  const { rows, check } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [search, setSearch] = useSearchParams();
  const text = (search.get("text") ?? "").toLowerCase();
  const shown = text
    ? rows.filter((r) => `${r.act} ${r.subject} ${r.person ?? ""}`.toLowerCase().includes(text))
    : rows;
  const [at, setAt] = useAt(shown[0] ? keyOf(shown[0]) : null);
  const here = shown.find((r) => keyOf(r) === at) ?? shown[0] ?? null;
  const columns: SheetColumn<Row>[] = [
    { key: "at", head: "When", width: "120px", cell: (r) => <span className="figure">{w.moment(r.at)}</span> },
    { key: "person", head: "Who", cell: (r) => r.person ?? "–" },
    { key: "act", head: "What", cell: (r) => r.act },
    { key: "subject", head: "Of", cell: (r) => r.subject },
    { key: "hash", head: "Hash", cell: (r) => <span className="code">{r.hash.slice(0, 12)}</span> },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Audit trail" sub={followed(check, w.moment)}>
            {check && check.broken !== null && (
              <b className="text-signal">The chain is broken at row {check.broken}.</b>
            )}
            <input
              aria-label="Show rows with"
              placeholder="show rows with…"
              maxLength={60}
              value={search.get("text") ?? ""}
              onChange={(e) => setSearch(withParts({ text: e.target.value, at: null }), { replace: true })}
              className="entry w-56"
            />
          </SheetHead>
          <Sheet
            label="Audit trail"
            columns={columns}
            rows={shown}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            empty={<Empty title="Nothing like this" />}
          />
        </>
      }
      slip={
        here ? (
          <>
            <SlipHead over={`${here.person ?? "–"}, ${w.moment(here.at)}`} title={`${here.act}, ${here.subject}`} />
            <pre className="overflow-x-auto border border-rule bg-sheet p-3 font-mono text-2xs whitespace-pre-wrap">
              {pretty(here.detail)}
            </pre>
          </>
        ) : (
          <Empty title="No row chosen" />
        )
      }
      tally={
        <TallyLine keys={[["arrowdown", "move"]]}>
          <span>
            <b>{shown.length}</b> rows, the newest first
          </span>
        </TallyLine>
      }
    />
  );
}

function pretty(json: string): string {
  try {
    return JSON.stringify(JSON.parse(json), null, 2);
  } catch {
    return json;
  }
}

/** What is known of the chain, and of when. */
function followed(check: TrailCheck | null, moment: (at: string) => string): string | undefined {
  if (!check) return "the chain is being followed for the first time";
  if (check.broken !== null) return undefined;
  return `the chain was whole to row ${check.upto} at ${moment(check.at)}; all of it was followed at ${moment(check.whole)}`;
}
