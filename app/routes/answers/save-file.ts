import { isFileKind } from "../../../server/desk/files/load-file";
import { saveFile } from "../../../server/read/records/save-file";
import { notFound, page } from "../../web/page";

export const loader = page("save files", ({ db, params }) => {
  const kind = params.kind ?? "";
  if (!isFileKind(kind)) throw notFound("There is no such file.");
  return new Response(saveFile(db, kind), {
    headers: { "Content-Type": "text/csv; charset=utf-8", "Content-Disposition": `attachment; filename="${kind}.csv"` },
  });
});
