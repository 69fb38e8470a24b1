import { checkedLayout } from "../../../server/acts/stock/keep-label";
import { lookAtLabel } from "../../../server/jobs/labels";
import { EXAMPLE } from "../../../server/queries/stock/labels";
import { answered } from "../../web/page";

/** A label as it would be with what is typed, drawn by what draws the real ones. Nothing is kept. */
export const action = answered("keep labels", async ({ day }, raw) => {
  const look = checkedLayout(raw);
  if (!look.ok) return Response.json({ problems: look.problems }, { status: 422 });
  return lookAtLabel(look.value, EXAMPLE, day);
});
