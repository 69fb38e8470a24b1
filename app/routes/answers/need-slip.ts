import { readNeedSlip } from "../../../server/read/needs/slip";
import { notFound, page } from "../../web/page";

export const loader = page("see needs", ({ db, url, day }) => {
  const slip = readNeedSlip(db, (url.searchParams.get("key") ?? "").slice(0, 60), day);
  if (!slip) throw notFound("This need is gone.");
  return Response.json(slip);
});
