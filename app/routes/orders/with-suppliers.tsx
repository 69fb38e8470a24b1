import { useMemo } from "react";
import { Link, useLoaderData, useNavigate, useSearchParams } from "react-router";
import { shownChance } from "../../../core/suppliers/chance";
import { count } from "../../../core/text";
import type { OrderRow } from "../../../server/queries/orders/lists";
import { countOpenAnswers } from "../../../server/queries/suppliers/answers";
import { rowsWithChances } from "../../../server/queries/suppliers/with-chances";
import { Button } from "../../ui/button";
import { Cuts, Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { pack, usePacked } from "../../ui/packed";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { OrderStrip, StateSquare, StripLegend } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt, withParts } from "../../ui/use-at";
import { page } from "../../web/page";
import { OrderPages } from "./order-pages";
import { OrderSlip } from "./order-slip";

export const loader = page("see orders", ({ db, day }) => ({
  rows: pack(rowsWithChances(db, day)),
  answers: countOpenAnswers(db),
}));
export const shouldRevalidate = unlessOnlyLooking;

type Row = OrderRow & { chance: number | null };
const keyOf = (r: Row) => String(r.id);
const CUTS = ["all", "place", "silent", "late", "part"] as const;
type Cut = (typeof CUTS)[number];
const inCut: Record<Cut, (r: Row) => boolean> = {
  all: () => true,
  place: (r) => r.state === "Cleared",
  silent: (r) => r.state === "With supplier" || r.state === "Confirmed in part",
  late: (r) => r.state !== "Cleared" && r.linesLate > 0,
  part: (r) => r.state === "Part in",
};

const columnsOf = (w: ReturnType<typeof useWriting>): SheetColumn<Row>[] => [
  { key: "order", head: "Order", cell: (r) => <Named name={r.supplierName} code={`${r.name} · ${r.storeName}`} /> },
  { key: "state", keep: 1, head: "State", cell: (r) => <StateSquare state={r.state} /> },
  {
    key: "strip",
    head: "Where it stands",
    width: "22%",
    cell: (r) =>
      r.state === "Cleared" ? (
        <span className="text-xs text-ink-3">not sent yet</span>
      ) : (
        <OrderStrip lines={r.lines} linesIn={r.linesIn} linesLate={r.linesLate} />
      ),
  },
  {
    key: "lines",
    keep: -1,
    head: "Lines in",
    align: "right",
    cell: (r) => <span className="figure">{`${r.linesIn} of ${r.lines}`}</span>,
  },
  {
    key: "due",
    keep: 3,
    head: "Next due",
    align: "right",
    cell: (r) =>
      r.nextDue ? (
        <span className={r.linesLate > 0 && r.state !== "Cleared" ? "font-semibold text-signal" : ""}>
          {w.day(r.nextDue)}
        </span>
      ) : (
        "–"
      ),
  },
  {
    key: "chance",
    keep: 0,
    head: "In time",
    align: "right",
    cell: (r) => <span className="figure">{r.chance === null ? "–" : w.percent(shownChance(r.chance))}</span>,
  },
  {
    key: "net",
    keep: 2,
    head: "Before tax",
    align: "right",
    cell: (r) => (
      <>
        <span className="figure">{w.money(r.net, r.currency)}</span>{" "}
        <span className="text-2xs text-ink-3">{r.currency}</span>
      </>
    ),
  },
];

/** Orders cleared to be placed and all after, until everything is in. */
export default function WithSuppliers() {
  const loaded = useLoaderData<typeof loader>();
  const rows = usePacked(loaded.rows);
  const w = useWriting();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const cut = CUTS.find((c) => c === search.get("cut")) ?? "all";
  const shown = useMemo(() => {
    const rank = (r: Row) => (r.state === "Cleared" ? "0" : "1") + (r.nextDue ?? r.required);
    return rows.filter(inCut[cut]).sort((a, b) => rank(a).localeCompare(rank(b)));
  }, [rows, cut]);
  const [at, setAt] = useAt(shown[0] ? keyOf(shown[0]) : null);
  const here = shown.find((r) => keyOf(r) === at) ?? shown[0] ?? null;
  const open = (r: Row) => navigate(`/orders/${r.id}`);
  const of = (c: Cut) => rows.filter(inCut[c]).length;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="With suppliers" sub={`${count(rows.length, "order")}, what waits to be placed first`}>
            <OrderPages here="with" />
          </SheetHead>
          <div className="px-4.5 pb-2.5">
            <Cuts
              label="Show"
              value={cut}
              onChange={(c) => setSearch(withParts({ cut: c, at: null }), { replace: true })}
              options={[
                { value: "all", label: "All", count: of("all") },
                { value: "place", label: "To be placed", count: of("place") },
                { value: "silent", label: "Not confirmed", count: of("silent") },
                { value: "late", label: "Overdue", count: of("late") },
                { value: "part", label: "Part in", count: of("part") },
              ]}
            />
          </div>
          <Sheet
            label="Orders with suppliers"
            columns={columnsOf(w)}
            rows={shown}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            onOpen={open}
            empty={
              <Empty title="Nothing here">
                Orders stand here once they are cleared, until everything on them is in.
              </Empty>
            }
          />
          <div className="border-t border-rule px-4.5 py-2">
            <StripLegend />
          </div>
        </>
      }
      slip={here ? <OrderSlip row={here} /> : <Empty title="No order chosen" />}
      tally={
        <TallyLine
          keys={[
            ["arrowdown", "move"],
            ["g", "go to a stop"],
          ]}
          act={
            here && (
              <Button look="main" hint="⏎" onClick={() => open(here)}>
                Open {here.name}
              </Button>
            )
          }
        >
          <span>
            <b>{of("place")}</b> to be placed
          </span>
          {loaded.answers > 0 && (
            <Link className="font-semibold underline" to="/answers">
              {count(loaded.answers, "answer")} to decide
            </Link>
          )}
          {of("late") > 0 && <span className="font-semibold text-signal">{of("late")} overdue</span>}
          <span>
            <b className="figure">{w.amount(shown.reduce((a, r) => a + r.homeNet, 0))}</b> before tax
          </span>
        </TallyLine>
      }
    />
  );
}
