import { may } from "../../../core/people/roles";
import { breakdownOf, readBreakdownPapers } from "../../../server/queries/insight/breakdown";
import { page } from "../../web/page";

/** The papers behind a cell of a breakdown: its filters name the cell. */
export const loader = page("see insight", ({ db, url, day, person }) => {
  const asked = breakdownOf(url.searchParams, day);
  const opens =
    asked.measure === "invoiced" ? "see invoices" : asked.measure === "asked" ? "see all requisitions" : "see orders";
  return Response.json({ ...readBreakdownPapers(db, asked), opens: may(person.roles, opens) });
});
