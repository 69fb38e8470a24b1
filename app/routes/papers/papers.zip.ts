import { createReadStream } from "node:fs";
import { Readable } from "node:stream";
import { hasPapers, papersFile } from "../../../server/jobs/papers/run-batch";
import { readBatch } from "../../../server/queries/papers/batches";
import { idOf, notFound, page } from "../../web/page";

/** The papers of a printed batch, one PDF an order, in one archive. */
export const loader = page("see orders", ({ db, params, person, house }) => {
  const batch = readBatch(db, idOf(params.id));
  if (batch?.person !== person.id || !batch.ended || !hasPapers(house.folder, batch.id))
    throw notFound("There are no papers of such a batch.");
  return new Response(
    Readable.toWeb(
      createReadStream(papersFile(house.folder, batch.id)),
    ) as ReadableStream /* Node’s own type of the same */,
    {
      headers: {
        "Content-Type": "application/zip",
        "Content-Disposition": `attachment; filename="orders-${batch.at.slice(0, 10)}-${batch.id}.zip"`,
      },
    },
  );
});
