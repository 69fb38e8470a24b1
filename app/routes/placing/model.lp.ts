import { lpText, type Measure, modelOf } from "../../../core/placing/model";
import { readBench } from "../../../server/queries/placing/bench";
import { idOf, notFound, page } from "../../web/page";

const MEASURES: readonly Measure[] = ["cost", "late", "days late", "orders", "left out"];

/** The bench's model as text for another solver (CPLEX LP format): docs/placing.md. */
export const loader = page("see benches", ({ db, params, url, day, hour }) => {
  const sheet = readBench(db, idOf(params.id), day, hour);
  if (!sheet) throw notFound("There is no such bench.");
  const measure = MEASURES.find((m) => m === url.searchParams.get("least")) ?? "cost";
  const leaving = url.searchParams.get("leave") === "yes";
  return new Response(lpText(modelOf(sheet.problem, { leaving }), measure), {
    headers: {
      "content-type": "text/plain; charset=utf-8",
      "content-disposition": `attachment; filename="bench-${sheet.head.id}-${measure.replace(" ", "-")}.lp"`,
    },
  });
});
