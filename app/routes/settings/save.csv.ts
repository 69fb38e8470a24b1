import { isFileKind } from "../../../server/acts/files/load-file";
import { saveInWorker } from "../../../server/jobs/saves";
import { notFound, page } from "../../web/page";

export const loader = page("save files", ({ db, params }) => {
  const kind = params.kind ?? "";
  if (!isFileKind(kind)) throw notFound("There is no such file.");
  return new Response(saveInWorker(db.name, { kind }), {
    headers: { "Content-Type": "text/csv; charset=utf-8", "Content-Disposition": `attachment; filename="${kind}.csv"` },
  });
});
