import { useMemo } from "react";
import { Link, useLoaderData, useNavigate, useSearchParams } from "react-router";
import { may } from "../../../core/people/roles";
import { count, inOrder } from "../../../core/text";
import { type OpenAsked, readOpenAsked } from "../../../server/queries/needs/noted";
import { FindEntry } from "../../ui/find-entry";
import { Cuts, Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt, withParts } from "../../ui/use-at";
import { page } from "../../web/page";

export const loader = page("see requisitions", ({ db, person }) => ({
  rows: readOpenAsked(db, may(person.roles, "see all requisitions") ? null : person.id),
}));
export const shouldRevalidate = unlessOnlyLooking;

type Row = OpenAsked;
const keyOf = (r: Row) => String(r.line);
const BY = ["date", "asker", "supplier"] as const;
const groupOf: Record<(typeof BY)[number], (r: Row) => string> = {
  date: (r) => r.neededBy,
  asker: (r) => r.asker,
  supplier: (r) => r.supplier || "\uffff",
};

/** The report of what was asked for and is not here yet: line by line, by date, asker or supplier. */
export default function OpenLines() {
  const { rows } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const by = BY.find((b) => b === search.get("by")) ?? "date";
  const text = search.get("find") ?? "";
  const shown = useMemo(() => {
    const wanted = text.toLowerCase().trim();
    const of = groupOf[by];
    return rows
      .filter(
        (r) =>
          !wanted ||
          `${r.number} ${r.asker} ${r.what} ${r.code} ${r.supplier} ${r.order} ${r.budget} ${r.account}`
            .toLowerCase()
            .includes(wanted),
      )
      .toSorted((a, b) => inOrder(of(a), of(b)) || inOrder(a.neededBy, b.neededBy) || a.line - b.line);
  }, [rows, by, text]);
  const group = useMemo(
    () => ({
      of: groupOf[by],
      heading: (r: Row) =>
        by === "date" ? `Needed by ${w.day(r.neededBy)}` : by === "asker" ? r.asker : r.supplier || "No supplier yet",
    }),
    [by, w.day],
  );
  const [at, setAt] = useAt(shown[0] ? keyOf(shown[0]) : null);
  const late = (r: Row) => r.neededBy < w.today || (r.due !== null && r.due > r.neededBy);
  const columns: SheetColumn<Row>[] = [
    { key: "what", head: "What", cell: (r) => <Named name={r.what} code={`${r.code} · ${r.store}`} /> },
    {
      key: "quantity",
      keep: 1,
      head: "Quantity",
      align: "right",
      cell: (r) => (
        <>
          <span className="figure">{w.quantity(r.quantity)}</span> <span className="text-2xs text-ink-3">{r.unit}</span>
        </>
      ),
    },
    {
      key: "number",
      head: "Requisition",
      cell: (r) => (
        <Link className="underline" to={`/requisitions/${r.requisition}`}>
          {r.number}
        </Link>
      ),
    },
    { key: "asker", head: "Asked by", cell: (r) => r.asker },
    { key: "asked", head: "Handed in", align: "right", cell: (r) => w.day(r.submitted, false) },
    {
      key: "needed",
      keep: 2,
      head: "Needed by",
      align: "right",
      cell: (r) => <span className={late(r) ? "font-semibold text-signal" : ""}>{w.day(r.neededBy, false)}</span>,
    },
    { key: "supplier", head: "Supplier", cell: (r) => r.supplier || <span className="text-ink-3">none yet</span> },
    {
      key: "order",
      keep: 2,
      head: "Stands",
      cell: (r) =>
        r.orderId
          ? `on order ${r.order}, due ${r.due ? w.day(r.due, false) : "–"}`
          : r.state === "In sign-off"
            ? "in sign-off"
            : "not ordered yet",
    },
    {
      key: "budget",
      keep: -1,
      head: "Charged to",
      cell: (r) => [r.budget, r.account].filter(Boolean).join(", ") || <span className="text-ink-3">·</span>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Asked for, not here yet" sub={count(rows.length, "line")}>
            <Link className="underline" to="/requisitions">
              Requisitions
            </Link>
          </SheetHead>
          <div className="flex items-center gap-3 px-4.5 pb-2.5">
            <Cuts
              label="By"
              value={by}
              onChange={(b) => setSearch(withParts({ by: b === "date" ? null : b, at: null }), { replace: true })}
              options={[
                { value: "date", label: "By date" },
                { value: "asker", label: "By asker" },
                { value: "supplier", label: "By supplier" },
              ]}
            />
            <FindEntry />
          </div>
          <Sheet
            label="Open lines"
            columns={columns}
            rows={shown}
            keyOf={keyOf}
            group={group}
            at={at}
            onAt={setAt}
            onOpen={(r) => navigate(`/requisitions/${r.requisition}`)}
            empty={<Empty title="Nothing is open">Everything that was asked for is here.</Empty>}
          />
        </>
      }
      tally={
        <TallyLine keys={[["enter", "open"]]}>
          <span>
            <b>{shown.length}</b> lines
          </span>
          <span>
            <b>{shown.filter((r) => r.orderId === null).length}</b> not ordered yet
          </span>
          {shown.some(late) && (
            <span className="font-semibold text-signal">{shown.filter(late).length} late or too late</span>
          )}
        </TallyLine>
      }
    />
  );
}
