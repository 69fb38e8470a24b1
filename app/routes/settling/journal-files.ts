import { monthStart, parseDay } from "../../../core/calendar/day";
import { saveInWorker } from "../../../server/jobs/saves";
import { page } from "../../web/page";
import { saving } from "../../web/saved-files";

/** The journal of some days, of this month where none are said: as CSV, or as an OECD audit file. */
const journal = (as: "csv" | "xml") =>
  page("see stock values", ({ db, url, day }) => {
    const asked = (name: string) => parseDay(url.searchParams.get(name) ?? "");
    const from = asked("from") ?? monthStart(day);
    const until = asked("until") ?? day;
    return saving(`journal-${from}-${until}`, as, saveInWorker(db.name, { journal: { from, until, made: day }, as }));
  });
export const journalCsv = journal("csv");
export const auditXml = journal("xml");
