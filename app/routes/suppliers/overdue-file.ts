import { saveInWorker } from "../../../server/jobs/saves";
import { page } from "../../web/page";
import { saving } from "../../web/saved-files";

/** What is overdue, by supplier and days late, with the open balance. */
const overdue = (as: "csv" | "xlsx") =>
  page("see orders", ({ db, day }) => saving(`overdue-${day}`, as, saveInWorker(db.name, { overdue: day, as })));
export const overdueCsv = overdue("csv");
export const overdueXlsx = overdue("xlsx");
