import { readScan } from "../../../exchange/gs1/scan";
import { storeName } from "../../../server/queries/choices";
import { orderOfPallet } from "../../../server/queries/receiving/announced";
import { findOpenLines, readOpenLines, strangerAt } from "../../../server/queries/receiving/open-count";
import { idOf, notAllowed, page } from "../../web/page";

/** `?code=` finds what is to come of a scan; `?lines=` how lines stand that were found before. */
export const loader = page("count in", ({ db, person, url }) => {
  const store = idOf(url.searchParams.get("store") ?? "");
  if (person.store !== null && person.store !== store) throw notAllowed("This is not your dock.");
  const known = url.searchParams.get("lines");
  if (known !== null)
    return Response.json({
      lines: readOpenLines(db, store, known.split(",").filter(Boolean).slice(0, 2_000).map(Number)),
    });
  const scanned = readScan((url.searchParams.get("code") ?? "").slice(0, 120));
  if (!scanned.ok) return Response.json({ lines: [], says: scanned.says });
  if (scanned.value.pallet !== null) {
    const on = orderOfPallet(db, store, scanned.value.pallet);
    const says = on
      ? `Pallet ${scanned.value.pallet} is announced for ${on.number}: scan it on its count sheet.`
      : null;
    return Response.json({ lines: [], says: says ?? `Pallet ${scanned.value.pallet} is not announced.` });
  }
  const lines = findOpenLines(db, store, scanned.value);
  return Response.json({ lines, says: lines.length ? null : strangerAt(db, storeName(db, store), scanned.value) });
});
