import type { ComingFigures, WeekAhead } from "../../../core/insight/ahead";
import { shownChance } from "../../../core/suppliers/chance";
import type { BudgetAhead, JobAhead, StillToCome, SupplierAhead } from "../../../server/queries/insight/ahead";
import { Empty } from "../../ui/frame-parts";
import type { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";

type Writing = ReturnType<typeof useWriting>;
export type AheadRow = StillToCome["rows"][number];

/** What a week is called: all before today and all after the last have names of their own. */
export function weekWords({ from, until }: Pick<WeekAhead, "from" | "until">, w: Writing): string {
  if (from === null) return "Late";
  return until === null ? `From ${w.day(from, false)}` : `${w.day(from, false)} – ${w.day(until, false)}`;
}
export const rowWords = (row: AheadRow, w: Writing): string => ("label" in row ? row.label : weekWords(row, w));

/** The sheet of one way of reading it; each has columns of its own. */
export function AheadSheet({
  ahead,
  w,
  pays,
  at,
  onAt,
}: {
  ahead: StillToCome;
  w: Writing;
  pays: boolean;
  at: string | null;
  onAt: (key: string) => void;
}) {
  const sheet = <R extends AheadRow>(rows: readonly R[], columns: readonly SheetColumn<R>[]) => (
    <Sheet
      label="What is still to come"
      columns={columns}
      rows={rows}
      keyOf={(r) => r.key}
      at={at}
      onAt={onAt}
      empty={<Empty title="Nothing is on its way">What is ordered and not here yet stands on this page.</Empty>}
    />
  );
  switch (ahead.by) {
    case "week":
      return sheet(ahead.rows, weekColumns(w, pays));
    case "supplier":
      return sheet(ahead.rows, supplierColumns(w, pays));
    case "job":
      return sheet(ahead.rows, jobColumns(w));
    case "budget":
      return sheet(ahead.rows, budgetColumns(w));
  }
}

const figure = (text: string, strong = false) => <span className={`figure ${strong ? "font-bold" : ""}`}>{text}</span>;
const money = <R,>(
  w: Writing,
  key: string,
  head: string,
  keep: number,
  of: (r: R) => number | null,
  strong = false,
): SheetColumn<R> => ({
  key,
  head,
  keep,
  align: "right",
  cell: (r) => {
    const minor = of(r);
    return figure(minor === null || minor === 0 ? "" : w.round(minor), strong);
  },
});
const named = <R extends AheadRow>(w: Writing, head: string): SheetColumn<R> => ({
  key: "of",
  head,
  gives: true,
  cell: (r) => rowWords(r, w),
});
/** How much is late, in vermilion: the one thing on the page that asks for an act. */
const late = <R extends ComingFigures>(w: Writing): SheetColumn<R> => ({
  key: "late",
  head: "Late",
  keep: 4,
  align: "right",
  cell: (r) => {
    const minor = r.late[0] + r.late[1] + r.late[2];
    return <span className="figure font-bold text-signal">{minor === 0 ? "" : w.round(minor)}</span>;
  },
});

const weekColumns = (w: Writing, pays: boolean): SheetColumn<WeekAhead>[] => [
  named<WeekAhead>(w, "Week"),
  money(w, "coming", "Goods to come", 4, (r) => r.coming, true),
  money(w, "moved", "Later than asked", 2, (r) => r.moved),
  ...(pays
    ? [
        money<WeekAhead>(w, "owed", "Owed", 2, (r) => r.owed),
        money<WeekAhead>(w, "bill", "To be billed", 2, (r) => r.toBill),
        money<WeekAhead>(w, "out", "Out by then", 4, (r) => r.out, true),
      ]
    : []),
];
const supplierColumns = (w: Writing, pays: boolean): SheetColumn<SupplierAhead>[] => [
  named<SupplierAhead>(w, "Supplier"),
  money(w, "coming", "Goods to come", 4, (r) => r.coming, true),
  late<SupplierAhead>(w),
  money(w, "late7", "Late to 7 days", 1, (r) => r.late[0]),
  money(w, "late30", "8 to 30 days", 1, (r) => r.late[1]),
  money(w, "late31", "Over 30 days", 2, (r) => r.late[2]),
  money(w, "moved", "Later than asked", 2, (r) => r.moved),
  {
    key: "promises",
    head: "Days moved",
    keep: 2,
    align: "right",
    cell: ({ promises: { count, days } }) => figure(count === 0 ? "" : `${days > 0 ? "+" : ""}${days} in ${count}`),
  },
  ...(pays
    ? [
        money<SupplierAhead>(w, "owed", "Owed", 3, (r) => r.owed),
        money<SupplierAhead>(w, "bill", "To be billed", 2, (r) => r.toBill),
      ]
    : []),
];
const jobColumns = (w: Writing): SheetColumn<JobAhead>[] => [
  named<JobAhead>(w, "Job"),
  { key: "vessel", head: "Vessel", keep: 1, cell: (r) => r.vessel },
  { key: "due", head: "First needed", keep: 3, align: "right", cell: (r) => figure(w.day(r.firstDue, false)) },
  {
    key: "short",
    head: "Lines short",
    keep: 4,
    align: "right",
    cell: (r) => (
      <span className="figure">
        <b className={r.short > 0 ? "text-signal" : ""}>{r.short}</b> of {r.open}
      </span>
    ),
  },
  {
    key: "chance",
    head: "All in time",
    keep: 3,
    align: "right",
    cell: ({ chance }) =>
      figure(chance === null ? "" : chance.basisPoints === null ? "–" : w.percent(shownChance(chance.basisPoints))),
  },
  money(w, "coming", "Goods to come", 3, (r) => r.coming),
  late<JobAhead>(w),
];
const budgetColumns = (w: Writing): SheetColumn<BudgetAhead>[] => [
  named<BudgetAhead>(w, "Budget line"),
  { key: "ends", head: "Until", keep: 1, align: "right", cell: (r) => figure(w.day(r.ends, false)) },
  money(w, "amount", "Budget", 3, (r) => r.amount),
  money(w, "spent", "Spent", 2, (r) => r.spent),
  money(w, "coming", "Goods to come", 4, (r) => r.coming, true),
  late<BudgetAhead>(w),
  money(w, "asked", "Asked for", 1, (r) => r.asked),
  {
    key: "left",
    head: "Left",
    keep: 4,
    align: "right",
    cell: (r) => <span className={`figure font-bold ${r.left < 0 ? "text-signal" : ""}`}>{w.round(r.left)}</span>,
  },
];
