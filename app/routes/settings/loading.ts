import { loadingsOf, stopLoading } from "../../../server/jobs/loads";
import { answered, page } from "../../web/page";

/** How far the person's own files are, while they are being loaded. */
export const loader = page("keep own inbox", ({ person }) =>
  Response.json(loadingsOf(person.id), { headers: { "Cache-Control": "no-store" } }),
);

/** Stops one of them. */
export const action = answered("keep own inbox", ({ person }, input) => {
  if (typeof input.of === "string") stopLoading(person.id, input.of);
  return Response.json({ ok: true });
});
