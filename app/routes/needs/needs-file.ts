import { Readable } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { needFile } from "../../../server/queries/needs/export";
import { readChoices } from "../../../server/queries/needs/needs";
import { settledPool } from "../../../server/queries/needs/pool";
import { layOut, needQueryOfProgram, planOf } from "../../../server/queries/needs/query";
import { programPage } from "../../web/page";

const TYPES = { csv: "text/csv; charset=utf-8", json: "application/json; charset=utf-8" };

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
    const body = createReadableStreamFromReadable(Readable.from(needFile(db, rows, kind), { objectMode: false }));
    return new Response(body, {
      headers: { "Content-Type": TYPES[kind], "Content-Disposition": `attachment; filename="needs.${kind}"` },
    });
  });

export const csv = asFile("csv");
export const json = asFile("json");
