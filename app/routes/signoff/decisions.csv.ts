import { Readable } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { addDays, parseDay } from "../../../core/calendar/day";
import { decisionsFile } from "../../../server/queries/signoff/decisions-file";
import { programPage } from "../../web/page";

/** Who decided what in a period, as a file: from one day to another, or the last 31. */
export const loader = programPage("see sign-offs", ({ db, url, day }) => {
  const to = parseDay(url.searchParams.get("to") ?? "") ?? day;
  const from = parseDay(url.searchParams.get("from") ?? "") ?? addDays(to, -30);
  const body = createReadableStreamFromReadable(Readable.from(decisionsFile(db, from, to), { objectMode: false }));
  return new Response(body, {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="sign-off-${from}-${to}.csv"`,
    },
  });
});
