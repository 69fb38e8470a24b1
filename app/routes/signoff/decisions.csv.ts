import { addDays, parseDay } from "../../../core/calendar/day";
import { decisionsFile } from "../../../server/queries/signoff/decisions-file";
import { fileAnswer } from "../../web/file-answer";
import { programPage } from "../../web/page";

/** Who decided what in a period, as a file: from one day to another, or the last 31. */
export const loader = programPage("see sign-offs", ({ db, url, day }) => {
  const to = parseDay(url.searchParams.get("to") ?? "") ?? day;
  const from = parseDay(url.searchParams.get("from") ?? "") ?? addDays(to, -30);
  return fileAnswer(decisionsFile(db, from, to), "csv", `sign-off-${from}-${to}`);
});
