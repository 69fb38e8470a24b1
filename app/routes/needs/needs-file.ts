import { needFile } from "../../../server/queries/needs/export";
import { readChoices } from "../../../server/queries/needs/needs";
import { settledPool } from "../../../server/queries/needs/pool";
import { layOut, needQueryOfProgram, planOf } from "../../../server/queries/needs/query";
import { fileAnswer } from "../../web/file-answer";
import { programPage } from "../../web/page";

/** The needs as a file, with the page's own filters in the address; waits until the plan is of this very moment. */
const asFile = (kind: "csv" | "json") =>
  programPage("see needs", async ({ db, url, day, hour, person }) => {
    const asked = needQueryOfProgram(db, url.searchParams, day);
    if (!asked.ok) return Response.json(asked, { status: 422 });
    const query = asked.value;
    const { needs } = await settledPool(db, planOf(query, day, hour));
    const choices = readChoices(db, person.id);
    const ticked = new Set([...choices].filter(([, c]) => c.ticked).map(([k]) => k));
    const { rows } = layOut(needs, query, ticked);
    return fileAnswer(needFile(db, rows, kind), kind, "needs");
  });

export const csv = asFile("csv");
export const json = asFile("json");
