import { Link, useLoaderData, useSearchParams } from "react-router";
import { BUDGET_FIGURES, type BudgetFigure, FIGURE_WORDS } from "../../../core/budgets/budget";
import { count } from "../../../core/text";
import { type BudgetPapers, readBudgets } from "../../../server/queries/budgets/budgets";
import { theCompany } from "../../../server/queries/company";
import { Cuts, Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { SumSheet } from "../../ui/sum";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt, withParts } from "../../ui/use-at";
import { useSlip } from "../../ui/use-slip";
import { page } from "../../web/page";
import { OrderPages } from "./order-pages";

export const loader = page("see orders", ({ db }) => {
  const company = theCompany(db);
  return { by: company.budgetBy, rows: readBudgets(db) };
});
export const shouldRevalidate = unlessOnlyLooking;

type Row = ReturnType<typeof useLoaderData<typeof loader>>["rows"][number];
const keyOf = (r: Row) => String(r.id);

/** Budget lines with their four figures; each opens to its papers. */
export default function Budgets() {
  const { rows, by } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [search, setSearch] = useSearchParams();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const figure = BUDGET_FIGURES.find((f) => f === search.get("figure")) ?? null;
  const { slip: behind, lost } = useSlip<BudgetPapers>(
    here ? `/budgets/${here.id}/papers${figure ? `?figure=${figure}` : ""}` : null,
    rows,
  );
  const over = rows.filter((r) => r.left < 0).length;
  const columns: SheetColumn<Row>[] = [
    {
      key: "name",
      head: "Budget line",
      cell: (r) => (
        <Named name={r.name} code={`${r.code} · ${w.day(r.starts, false)} to ${w.day(r.ends, false)}`} strong />
      ),
    },
    {
      key: "amount",
      keep: 1,
      head: "Budget",
      align: "right",
      cell: (r) => <span className="figure">{w.money(r.amount)}</span>,
    },
    ...BUDGET_FIGURES.map(
      (f): SheetColumn<Row> => ({
        key: f,
        head: FIGURE_WORDS[f][0]!.toUpperCase() + FIGURE_WORDS[f].slice(1),
        align: "right",
        cell: (r) =>
          r.figures[f] ? (
            <span className="figure">{w.money(r.figures[f])}</span>
          ) : (
            <span className="text-ink-3">·</span>
          ),
      }),
    ),
    {
      key: "left",
      keep: 3,
      head: "Left",
      align: "right",
      cell: (r) => <span className={`figure ${r.left < 0 ? "font-semibold text-signal" : ""}`}>{w.money(r.left)}</span>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Budgets"
            sub={`what is ordered counts in the period in which it is ${by === "due" ? "due" : "ordered"}`}
          >
            <OrderPages here="budgets" />
          </SheetHead>
          <Sheet
            label="Budgets"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            empty={<Empty title="No budget lines yet">An administrator loads them under Files.</Empty>}
          />
        </>
      }
      slip={
        here ? (
          <>
            <SlipHead over={here.code} title={here.name} />
            <SumSheet sum={here.sum} />
            <SlipPart title="Its papers">
              <Cuts
                label="Which figure"
                value={figure ?? "all"}
                onChange={(f: BudgetFigure | "all") =>
                  setSearch(withParts({ figure: f === "all" ? null : f }), { replace: true })
                }
                options={[
                  { value: "all", label: "all" },
                  ...BUDGET_FIGURES.filter((f) => here.figures[f] !== 0).map((f) => ({
                    value: f,
                    label: FIGURE_WORDS[f],
                  })),
                ]}
              />
              <ul className="mt-2 border border-rule bg-sheet text-xs">
                {behind?.papers.map((p, i) => (
                  <li key={i} className="flex items-baseline gap-2 border-b border-rule-2 px-2.5 py-1 last:border-0">
                    <Link to={p.href} className="min-w-0 flex-1 truncate underline">
                      {p.label}
                    </Link>
                    <span className="figure">{w.money(p.minor)}</span>
                  </li>
                ))}
                {behind?.count === 0 && <li className="px-2.5 py-1 text-ink-2">none</li>}
                {lost && <li className="px-2.5 py-1 text-ink-2">They cannot be read just now.</li>}
              </ul>
              {behind && behind.count > 1 && (
                <p className="mt-1 flex justify-between px-2.5 text-xs font-semibold">
                  <span>
                    {count(behind.count, "paper line")}
                    {behind.count > behind.papers.length && `, the newest ${behind.papers.length} of them here`}
                  </span>
                  <span className="figure">{w.money(behind.minor)}</span>
                </p>
              )}
            </SlipPart>
          </>
        ) : (
          <Empty title="None chosen" />
        )
      }
      tally={
        <TallyLine keys={[["arrowdown", "move"]]}>
          <span>{count(rows.length, "budget line")}</span>
          {over > 0 && <span className="font-semibold text-signal">{over} over budget</span>}
        </TallyLine>
      }
    />
  );
}
