import { BUDGET_FIGURES } from "../../../core/budgets/budget";
import { readBudgetPapers } from "../../../server/queries/budgets/budgets";
import { idOf, page } from "../../web/page";

/** The papers behind a budget's figures: `figure=` behind one of them. */
export const loader = page("see orders", ({ db, params, url }) => {
  const figure = BUDGET_FIGURES.find((f) => f === url.searchParams.get("figure")) ?? null;
  return Response.json(readBudgetPapers(db, idOf(params.id), figure));
});
