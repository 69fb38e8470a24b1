import { readKnownLines } from "../../../server/queries/receiving/known-lines";
import { idOf, notAllowed, page } from "../../web/page";

/** What should come soon to a store, for a device that counts without a connection. It holds no price. */
export const loader = page("count in", ({ db, person, day, url }) => {
  const store = idOf(url.searchParams.get("store") ?? "");
  if (person.store !== null && person.store !== store) throw notAllowed("This is not your dock.");
  return Response.json({ lines: readKnownLines(db, store, day) }, { headers: { "Cache-Control": "no-store" } });
});
