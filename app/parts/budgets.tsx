import { Link } from "react-router";
import { BUDGET_FIGURES, FIGURE_WORDS } from "../../core/budgets/budget";
import type { BudgetView } from "../../server/queries/budgets/budgets";
import { SlipPart } from "../ui/frame-parts";
import { useWriting } from "../ui/locale";

/** The budgets that a paper goes against; `opens`: whether this person may open the papers behind a figure. */
export function Budgets({ budgets, opens = true }: { budgets: readonly BudgetView[]; opens?: boolean }) {
  if (budgets.length === 0) return null;
  return (
    <>
      {budgets.map((b) => (
        <SlipPart key={b.id} title={`Budget ${b.code}, ${b.name}`}>
          <BudgetBar budget={b} opens={opens} />
        </SlipPart>
      ))}
    </>
  );
}

/** A budget as a bar: billed, received, on order and asked for, then this paper; what is over stands in signal colour. */
function BudgetBar({ budget: b, opens }: { budget: BudgetView; opens: boolean }) {
  const w = useWriting();
  const whole = Math.max(b.amount, b.used, 1);
  const fills = ["bg-ink", "bg-ink/70", "bg-harbour/60", "bg-harbour/30"];
  const part = (minor: number) => `${Math.max(0, (minor / whole) * 100)}%`;
  return (
    <div className="border border-rule bg-sheet px-2.5 py-2 text-xs">
      <div className="relative flex h-[10px] w-full bg-rule-2" aria-hidden="true">
        {BUDGET_FIGURES.map((f, i) => (
          <span key={f} style={{ width: part(b.figures[f]) }} className={fills[i]} />
        ))}
        {b.wish > 0 && (
          <span
            style={{ width: part(b.wish) }}
            className={`border border-ink ${b.left < 0 ? "bg-signal" : "bg-here"}`}
          />
        )}
        <span className="absolute top-[-3px] h-4 w-[2px] bg-ink" style={{ left: part(b.amount) }} />
      </div>
      <dl className="mt-1.5">
        {BUDGET_FIGURES.filter((f) => b.figures[f] !== 0).map((f) => (
          <div key={f} className="flex min-h-6 items-center justify-between">
            <dt className="text-ink-2">{FIGURE_WORDS[f]}</dt>
            <dd className="figure">
              {opens ? (
                <Link to={`/budgets?at=${b.id}&figure=${f}`} className="underline decoration-rule">
                  {w.money(b.figures[f])}
                </Link>
              ) : (
                w.money(b.figures[f])
              )}
            </dd>
          </div>
        ))}
        {b.wish !== 0 && (
          <div className="flex min-h-6 items-center justify-between border-t border-rule-2">
            <dt className="text-ink-2">left before it</dt>
            <dd className="figure">{w.money(b.left + b.wish)}</dd>
          </div>
        )}
        {b.wish !== 0 && (
          <div className="flex min-h-6 items-center justify-between">
            <dt className="text-ink-2">this paper</dt>
            <dd className="figure">{w.money(b.wish)}</dd>
          </div>
        )}
        <div className={`flex justify-between border-t border-rule font-semibold ${b.left < 0 ? "text-signal" : ""}`}>
          <dt>{b.left < 0 ? "over budget" : `left of ${w.amount(b.amount)}`}</dt>
          <dd className="figure">{w.money(Math.abs(b.left))}</dd>
        </div>
      </dl>
      <p className="mt-1 text-2xs text-ink-3">
        {w.day(b.starts, false)} to {w.day(b.ends, false)}
      </p>
    </div>
  );
}
