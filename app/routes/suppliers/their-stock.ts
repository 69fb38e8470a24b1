import { askStock } from "../../../server/acts/suppliers/ask-stock";
import { answering, readTheirStock, type SaidToday } from "../../../server/queries/suppliers/their-stock";
import { idOf, kept, page } from "../../web/page";

/** For scripts of our own pages: `of=` records with commas between. */
export const loader = page("see benches", ({ db, url, day }) => {
  const of = (url.searchParams.get("of") ?? "").split(",").filter(Boolean).slice(0, 40).map(idOf);
  const said = of.map((id) => readTheirStock(db, id, day)).filter((s) => s !== null);
  return Response.json({ said, answering: answering(db, of) } satisfies SaidToday);
});

/** Asks them now. */
export const action = kept("write orders", (desk, input) => askStock(desk, input));
