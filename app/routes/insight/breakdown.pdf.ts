import { drawReport } from "../../../server/jobs/papers/draw";
import { breakdownOf } from "../../../server/queries/insight/breakdown";
import { breakdownReport } from "../../../server/queries/insight/breakdown-report";
import { page } from "../../web/page";
import { pdfAnswer } from "../../web/pdf-answer";

/** A breakdown as its address asks for it, to print. */
export const loader = page("see insight", async ({ db, url, day }) =>
  pdfAnswer("breakdown", await drawReport(db, breakdownReport(db, breakdownOf(url.searchParams, day)))),
);
